import { isLineOf, type SessionDoc } from '@/core/session';
import type { Check, DeviceAct, Mend } from './check';
import type { Live } from './live';
import type { NetworkFacts } from './networkFacts';

/** Seconds until a free-running clock makes a click. */
export const secondsToClick = (margin: number, ppm: number, rate: number): number =>
  margin / ((rate * Math.abs(ppm)) / 1e6);

const inWords = (seconds: number): string =>
  seconds < 90 ? `${Math.max(1, Math.round(seconds))} s` : `${Math.round(seconds / 60)} min`;

/** Links that are down, clocks that run free, feeds that are switched off: of devices that the session uses. */
export function networkCheck(doc: SessionDoc, live: Live): Check[] {
  const patched = new Set(doc.tracks.flatMap((t) => t.inputs).filter((l) => l !== null));
  const armed = new Set(doc.tracks.filter((t) => t.armed).flatMap((t) => t.inputs));
  return (live.networks ?? []).flatMap((network) => {
    const lines = [...patched].filter((l) => isLineOf(network.device, l));
    return lines.length ? findings(doc, network, lines, armed) : [];
  });
}

function findings(doc: SessionDoc, n: NetworkFacts, lines: string[], armed: ReadonlySet<string | null>): Check[] {
  const found: Check[] = [];
  const grave = lines.some((l) => armed.has(l));
  const mend = (label: string, what: DeviceAct['what']): Mend => ({
    label,
    edits: [],
    act: { device: n.device, what },
  });
  const add = (code: string, grade: Check['grade'], title: string, why: string, mends: Mend[], about = lines) =>
    found.push({ id: `${code}/${n.device}`, grade, place: 'lineup', about, title, why, mends });
  const links = [mend('Mend the links', 'mend-links')];
  const up = n.links.filter(Boolean).length;
  if (up === 0)
    add(
      'links-down',
      grave ? 'stop' : 'warn',
      `No link to ${n.name}`,
      'Nothing arrives; takes would be silent.',
      links,
    );
  else if (up < n.links.length)
    add(
      'link-down',
      'warn',
      `One of the two links to ${n.name} is down`,
      'No sample is lost yet. If the other goes too, the take is lost from there on.',
      links,
    );
  if (n.free) {
    const drift =
      n.ppm === null ? 'its drift is being measured' : `${n.ppm >= 0 ? '+' : '−'}${Math.abs(n.ppm).toFixed(1)} ppm`;
    const next =
      n.ppm !== null && Math.abs(n.ppm) > 0.5
        ? `The next click comes in about ${inWords(secondsToClick(n.margin, n.ppm, doc.format.sampleRate))}.`
        : 'Sooner or later it clicks.';
    add(
      'clock-free',
      'warn',
      `${n.name} runs on its own clock: ${drift}`,
      `${next}${n.slips > 0 ? ` ${n.slips} so far.` : ''} Let it follow the network's clock.`,
      [mend('Follow the network’s clock', 'follow-clock')],
    );
  }
  for (const line of n.off.filter((l) => lines.includes(l))) {
    const track = doc.tracks.find((t) => t.inputs.includes(line));
    add(
      'feed-off',
      armed.has(line) ? 'stop' : 'warn',
      `${doc.lines.find((l) => l.id === line)?.name ?? 'A feed'} is switched off at ${n.name}`,
      `${track?.name ?? 'Its track'} would record silence. Switch the direct feed on at the console.`,
      [mend('Switch the feed on', 'feed-on')],
      [line, ...(track ? [track.id] : [])],
    );
  }
  return found;
}
