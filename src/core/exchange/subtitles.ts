import { formatCueTime, parseCueTime } from './cueTimes';
import { type ListedCue, ExchangeFault, type Read } from './timeline';

const blocksOf = (text: string): { line: number; lines: string[] }[] => {
  const all = text.replace(/^\uFEFF/, '').split(/\r\n|\r|\n/);
  const out: { line: number; lines: string[] }[] = [];
  let open: string[] | null = null;
  all.forEach((l, i) => {
    if (l.trim() === '') open = null;
    else if (open) open.push(l);
    else out.push({ line: i + 1, lines: (open = [l]) });
  });
  return out;
};

/** The times of "00:00:01,000 --> 00:00:02,500", with cue settings behind them. */
function timesOf(line: string): [number, number] | null {
  const m = /^\s*(\S+)\s+-->\s+(\S+)/.exec(line);
  const [start, end] = [m && parseCueTime(m[1]!), m && parseCueTime(m[2]!)];
  return start === null || end === null ? null : [start, end];
}

// In both formats an empty line ends a cue, so none may stand within one.
const closed = (text: string): string => text.replace(/(\r?\n){2,}/g, '\n').trim();

/** SubRip: number, times, text; the speaker stands before a colon in capitals, as scripts have it. */
export function writeSrt(cues: readonly ListedCue[]): string {
  return cues
    .map((c, i) => {
      const text = closed(c.speaker ? `${c.speaker.toUpperCase()}: ${c.text}` : c.text);
      return `${i + 1}\r\n${formatCueTime(c.start, ',')} --> ${formatCueTime(c.end, ',')}\r\n${text.replace(/\r?\n/g, '\r\n')}\r\n`;
    })
    .join('\r\n');
}

const SPOKEN = /^([\p{Lu}][\p{Lu}\d .'-]{0,39}):\s+/u;

/** Reads SubRip. Blocks without times are named in the notes; a text without any cue is refused. */
export function readSrt(text: string): Read<ListedCue[]> {
  return readCues(
    blocksOf(text),
    (body) => {
      const plain = body.replace(/<\/?[a-z][^<>]*>/gi, '');
      const spoken = SPOKEN.exec(plain);
      return spoken ? { speaker: spoken[1]!, text: plain.slice(spoken[0].length) } : { speaker: '', text: plain };
    },
    'SubRip',
  );
}

const escapeVtt = (text: string): string => text.replace(/&/g, '&amp;').replace(/</g, '&lt;').replace(/>/g, '&gt;');
const ENTITIES: Record<string, string> = { amp: '&', lt: '<', gt: '>', nbsp: '\u00a0', lrm: '\u200e', rlm: '\u200f' };
const unescapeVtt = (text: string): string => text.replace(/&(\w+);/g, (all, name: string) => ENTITIES[name] ?? all);

/** WebVTT (W3C): the speaker stands in a voice tag. */
export function writeVtt(cues: readonly ListedCue[]): string {
  const body = cues.map((c, i) => {
    const text = escapeVtt(closed(c.text));
    const voice = c.speaker ? `<v ${escapeVtt(c.speaker.replace(/\s+/g, ' ').trim())}>${text}</v>` : text;
    return `${i + 1}\n${formatCueTime(c.start, '.')} --> ${formatCueTime(c.end, '.')}\n${voice}\n`;
  });
  return `WEBVTT\n\n${body.join('\n')}`;
}

/** A tag holds no other: one that is never closed is looked through once, not once for each that follows. */
const TAG = /<[^<>]*>/g;

/** Reads WebVTT; notes, styles and regions are passed over. Throws ExchangeFault when the first line is not "WEBVTT". */
export function readVtt(text: string): Read<ListedCue[]> {
  if (!/^\uFEFF?WEBVTT(?=[ \t\r\n]|$)/.test(text))
    throw new ExchangeFault('This is no WebVTT file: line 1 should begin with "WEBVTT".');
  const blocks = blocksOf(text).filter((b) => !/^\uFEFF?(WEBVTT|NOTE|STYLE|REGION)\b/.test(b.lines[0]!));
  return readCues(
    blocks,
    (body) => {
      const voice = /<v(?:\.[^\s<>]*)?\s([^<>]*)>/.exec(body);
      return { speaker: voice ? unescapeVtt(voice[1]!.trim()) : '', text: unescapeVtt(body.replace(TAG, '')) };
    },
    'WebVTT',
  );
}

function readCues(
  blocks: { line: number; lines: string[] }[],
  body: (text: string) => { speaker: string; text: string },
  kind: string,
): Read<ListedCue[]> {
  const notes: string[] = [];
  const value = blocks.flatMap(({ line, lines }): ListedCue[] => {
    const at = lines.findIndex((l) => l.includes('-->'));
    const times = at < 0 || at > 1 ? null : timesOf(lines[at]!);
    if (!times) {
      notes.push(
        `Line ${line + Math.max(0, at)}: ${JSON.stringify(lines[Math.max(0, at)]!.slice(0, 40))} has no times that can be read; it was left out.`,
      );
      return [];
    }
    if (times[1] < times[0])
      notes.push(`Line ${line + at}: the cue ends before it starts; both ends are kept the other way round.`);
    const [start, end] = [Math.min(...times), Math.max(...times)];
    return [{ start, end, ...body(lines.slice(at + 1).join('\n')) }];
  });
  if (value.length === 0)
    throw new ExchangeFault(
      `No ${kind} cue was found. ${notes[0] ?? 'A cue has a line like 00:00:01,000 --> 00:00:02,500.'}`,
    );
  return { value, notes };
}
