import { moved } from '@/core/speakers';
import { stageKind } from '@/core/stages';
import { parseNumber } from '@/core/units';
import type { Bus, Line, SessionDoc, Track } from './document';
import type { EditJson } from './edits';
import {
  inLimits,
  BUS_PARAMS,
  MONITOR_PARAMS,
  PLACEMENT_PARAMS,
  SEND_PARAMS,
  SHEET_PARAMS,
  TRACK_PARAMS,
} from './params';
import type { Param } from './params';
import type { OwnerKind } from './owners';
import { monitorOf } from './seat';

/** A value of the session that can be set by saying its name and a figure. */
export interface Settable {
  /** "Narrator, Compressor Threshold". */
  name: string;
  /** The part of the name that says which value it is. */
  what: string;
  param: Param;
  value: number;
  set(value: number): EditJson;
}

const named = (owner: string, what: string) => ({ name: `${owner}, ${what}`, what });

/** Every value that is described by a parameter and is a figure, in document order. */
export function settables(doc: SessionDoc): Settable[] {
  return [
    ...doc.tracks.flatMap((t) => ofTrack(doc, t)),
    ...doc.buses.flatMap((b) => ofBus(doc, b)),
    ...doc.lines.flatMap(ofLine),
    {
      name: MONITOR_PARAMS.level.label,
      what: MONITOR_PARAMS.level.label,
      param: MONITOR_PARAMS.level,
      value: monitorOf(doc).level,
      set: (level) => ({ type: 'setMonitor', level }),
    },
  ];
}

function ofTrack(doc: SessionDoc, t: Track): Settable[] {
  const param = TRACK_PARAMS.level;
  const level: Settable = {
    ...named(t.name, param.label),
    param,
    value: t.level,
    set: (v) => ({ type: 'setTrack', track: t.id, level: v }),
  };
  const placed = t.layout === 'mono' || t.layout === 'stereo';
  const place = Object.values(PLACEMENT_PARAMS).map((p): Settable => ({
    ...named(t.name, p.label),
    param: p,
    value: t.placement[p.id as keyof typeof PLACEMENT_PARAMS] ?? p.default,
    set: (v) => ({ type: 'placeTrack', track: t.id, placement: moved(t.placement, { [p.id]: v }) }),
  }));
  return [level, ...(placed ? place : []), ...sendsOf(doc, t), ...stagesOf('track', t)];
}

function ofBus(doc: SessionDoc, b: Bus): Settable[] {
  const own = (['level', 'trim'] as const).map((id): Settable => ({
    ...named(b.name, BUS_PARAMS[id].label),
    param: BUS_PARAMS[id],
    value: b[id],
    set: (v) => ({ type: 'setBus', bus: b.id, [id]: v }),
  }));
  return [...own, ...sendsOf(doc, b), ...stagesOf('bus', b)];
}

const sendsOf = (doc: SessionDoc, from: Track | Bus): Settable[] =>
  from.sends.map((s) => ({
    ...named(from.name, `${SEND_PARAMS.level.label} to ${doc.buses.find((b) => b.id === s.to)?.name ?? s.to}`),
    param: SEND_PARAMS.level,
    value: s.level,
    set: (level) => ({ type: 'setSend', owner: from.id, send: s.id, level }),
  }));

function ofLine(l: Line): Settable[] {
  const sheet = (['gain', 'pad'] as const).map((id): Settable => ({
    ...named(l.name, `line sheet ${SHEET_PARAMS[id].label}`),
    param: SHEET_PARAMS[id],
    value: l.sheet[id],
    set: (v) => ({ type: 'setLine', line: l.id, [id]: v }),
  }));
  return [...sheet, ...stagesOf('line', l)];
}

const stagesOf = (kind: OwnerKind, { id, name, chain }: Line | Track | Bus): Settable[] =>
  chain.flatMap((stage) => {
    const { name: called, params } = stageKind(stage.type);
    return params
      .filter((p) => !p.choices)
      .map((p): Settable => ({
        ...named(name, `${called} ${p.label}`),
        param: p,
        value: stage.values[p.id] ?? p.default,
        set: (v) => ({ type: 'setStage', owner: { kind, id }, stage: stage.id, values: { [p.id]: v } }),
      }));
  });

export interface Wanted {
  target: Settable;
  value: number;
  /** Why it cannot be set, in words; null where it can. */
  fault: string | null;
}

/**
 * What a text like "narrator level -3" or "surf cut frequency 120 Hz" may mean: words that all begin words of a name,
 * at least one of them says which value it is ("track 12" is a track), and a figure behind them. The closest names first,
 * at most `most`; nothing where there is no figure.
 */
export function wantedBy(doc: SessionDoc, text: string, most = 6): Wanted[] {
  const parts = /^(.*\S)\s+([+\-−–]?\d*[.,]?\d+\s*[a-zµ°%]*)$/iu.exec(text.trim());
  const value = parts ? parseNumber(parts[2]!) : NaN;
  if (!parts || Number.isNaN(value)) return [];
  const words = wordsOf(parts[1]!);
  return settables(doc)
    .filter((s) => {
      const [there, what] = [wordsOf(s.name), wordsOf(s.what)];
      const begins = (w: string, among: readonly string[]) => among.some((t) => t.startsWith(w));
      return words.every((w) => begins(w, there)) && words.some((w) => begins(w, what));
    })
    .sort((a, b) => a.name.length - b.name.length)
    .slice(0, most)
    .map((target) => ({ target, value, fault: faultIn(target.param, value) }));
}

const wordsOf = (text: string): string[] => text.toLowerCase().match(/[\p{L}\p{N}]+/gu) ?? [];

const faultIn = (param: Param, value: number): string | null =>
  inLimits(param, value) ? null : `goes from ${param.min} to ${param.max} ${param.unit}`.trim();
