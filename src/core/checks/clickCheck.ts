import type { SessionDoc } from '@/core/session';
import { layoutOf } from '@/core/speakers';
import type { Check } from './check';

/** The click was given a loudspeaker that the mix has no more: it is heard in front meanwhile. */
export function clickCheck({ settings, format }: SessionDoc): Check[] {
  const { to } = settings.click;
  const layout = layoutOf(format.layout);
  if (to === undefined || layout.speakers.some((s) => s.label === to)) return [];
  return [
    {
      id: 'click-place',
      grade: 'note',
      place: 'brief',
      about: [],
      title: `The click should come from ${to}, which ${layout.name} has not`,
      why: 'It is heard in front meanwhile.',
      mends: [{ label: 'Leave it in front', edits: [{ type: 'setWork', clickTo: null }] }],
    },
  ];
}
