import type { Place } from '@/core/checks';

/** An action that a control of a place stands for; the control carries the same id. */
export interface Action {
  id: string;
  place: Place;
  label: string;
  /** What is pressed first, where the control stands in a part of the place that may not be shown. */
  through?: string;
}

const brief = (id: string, label: string, sheet?: string): Action => ({
  id: `brief.${id}`,
  place: 'brief',
  label,
  ...(sheet ? { through: `brief.sheet.${sheet}` } : {}),
});
const lineup = (id: string, label: string, view?: string): Action => ({
  id: `lineup.${id}`,
  place: 'lineup',
  label,
  ...(view ? { through: `lineup.view.${view}` } : {}),
});

/** What Brief and Line-up can do, from wherever one searches for it. */
export const ACTIONS: readonly Action[] = [
  brief('new', 'New session'),
  brief('open', 'Open, rename, duplicate, archive or bring in sessions'),
  brief('rate', 'Choose the sample rate'),
  brief('bits', 'Choose the word length'),
  brief('kind', 'Choose the kind of file'),
  brief('channels', 'Choose interleaved files or one for each channel'),
  brief('frames', 'Choose the frame rate'),
  brief('start', 'Type the start timecode'),
  brief('layout', 'Choose the layout of the mix'),
  brief('destinations', 'Choose where new tracks go'),
  brief('limits', 'Choose the loudness limits of the job'),
  brief('names', 'Write the pattern of file names'),
  brief('deliverable', 'Add a deliverable'),
  brief('sheet.tracks', 'Show the list of tracks'),
  brief('sheet.make', 'Make tracks'),
  brief('row', 'Add a row of tracks to make', 'make'),
  brief('list', 'Take names of tracks from a list', 'make'),
  brief('from-lines', 'Make tracks from the line sheet', 'make'),
  brief('from-script', 'Make tracks from the script', 'make'),
  brief('make', 'Make the planned tracks now', 'make'),
  brief('sheet.work', 'Show the working settings'),
  brief('guides', 'Choose what guide tracks do while recording', 'work'),
  brief('click', 'Choose when the click is heard', 'work'),
  brief('level-of-the-click', 'Set the level of the click', 'work'),
  brief('count-in', 'Set the count-in', 'work'),
  brief('pre-roll', 'Set the pre-roll', 'work'),
  brief('post-roll', 'Set the post-roll', 'work'),
  brief('seconds-back-from-a-mistake', 'Set how far back a mistake takes one', 'work'),
  brief('seconds-between-beeps', 'Set the beeps before a cue', 'work'),
  brief('streamer', 'Set the streamer over the picture', 'work'),
  brief('buffer', 'Choose the buffer', 'work'),
  brief('tempo', 'Add a tempo', 'work'),
  brief('metre', 'Add a metre', 'work'),
  brief('sheet.versions', 'Show the versions of the session'),
  brief('version', 'Keep this state as a version', 'versions'),
  brief('sheet.templates', 'Show the templates'),
  brief('template', 'Keep this session as a template', 'templates'),
  brief('template-in', 'Take a template file in', 'templates'),
  lineup('device', 'Choose the input device'),
  lineup('power', 'Switch the input device on or off'),
  lineup('inputs', 'Use the inputs of this computer'),
  lineup('delay', 'Measure or set the delay of the device'),
  lineup('network', 'Links, clock and direct feed of a networked device'),
  lineup('plug', 'Pull the plug of a device, or put it back'),
  lineup('listening.headphones', 'Listen on headphones'),
  lineup('listening.loudspeakers', 'Listen on loudspeakers'),
  lineup('view.patch', 'Pull cords from lines to tracks'),
  lineup('type', 'Patch by typing', 'patch'),
  lineup('view.table', 'Patch all devices in a table'),
  lineup('view.sheet', 'Write the line sheet'),
  lineup('all-lines', 'Write down all lines of the device', 'sheet'),
  lineup('copy', 'Copy the line sheet as a table', 'sheet'),
  lineup('paste', 'Take the line sheet from a spreadsheet', 'sheet'),
  lineup('print', 'Print the line sheet', 'sheet'),
  lineup('names', 'Name tracks by their lines', 'sheet'),
  lineup('view.levels', 'Levels of the loudest passage'),
  lineup('listen', 'Listen to the loudest passage', 'levels'),
  lineup('view.tone', 'Room tone'),
  lineup('quiet', 'Find a quiet place for room tone', 'tone'),
];

const controlOf = (id: string): HTMLElement | null => document.querySelector<HTMLElement>(`[data-action="${id}"]`);

/** Whether a control can be seen now. */
export const isShown = (el: HTMLElement): boolean => el.getClientRects().length > 0;

/** Presses a control, or goes into it where it is typed or chosen in. */
export function press(el: HTMLElement): void {
  el.focus();
  if (el.matches('input:not([type=checkbox]):not([type=radio]), textarea')) (el as HTMLInputElement).select();
  else if (el.getAttribute('role') === 'spinbutton' || el.getAttribute('role') === 'slider') return;
  // Lists and menus open by their keys.
  else if (el.getAttribute('role') === 'combobox' || el.getAttribute('aria-haspopup') === 'menu')
    el.dispatchEvent(new KeyboardEvent('keydown', { key: 'Enter', code: 'Enter', bubbles: true, cancelable: true }));
  else el.click();
}

/** Frames that are waited for a control that its place is about to draw. */
const PATIENCE = 180;

async function shown(id: string): Promise<HTMLElement | null> {
  for (let i = 0; i < PATIENCE; i++) {
    const el = controlOf(id);
    if (el) return el;
    await new Promise((done) => requestAnimationFrame(done));
  }
  return null;
}

/** The search gives the focus back to where it was as it closes; what is pressed takes it after that. */
export async function searchClosed(): Promise<void> {
  for (let i = 0; i < PATIENCE && document.querySelector('[cmdk-dialog]'); i++)
    await new Promise((done) => requestAnimationFrame(done));
}

const isDisabled = (el: HTMLElement): boolean => el.matches(':disabled, [aria-disabled="true"]');

/**
 * Does an action: goes to its place first, then to its part of the place. Returns why it cannot be done now; null: done.
 */
export async function act(action: Action, go: (place: Place) => void): Promise<string | null> {
  if (!controlOf(action.through ?? action.id)) go(action.place);
  if (action.through) {
    const part = await shown(action.through);
    if (part) press(part);
  }
  const el = await shown(action.id);
  if (!el || isDisabled(el)) return `${action.label}: not possible now${el?.title ? `, ${el.title}` : ''}.`;
  press(el);
  return null;
}

const CONTROLS =
  'button, a[href], input:not([type=hidden]):not([type=file]), textarea, [role="button"], [role="spinbutton"], [role="slider"], [role="radio"]';

/** What else can be pressed, typed or set in what is shown of a place: by the names that screen readers tell. */
export function controlsShown(): { name: string; el: HTMLElement }[] {
  const known = new Set(ACTIONS.map((a) => a.id));
  const found = new Map<string, HTMLElement>();
  for (const el of document.querySelectorAll<HTMLElement>('main')[0]?.querySelectorAll<HTMLElement>(CONTROLS) ?? []) {
    if (known.has(el.dataset.action ?? '') || isDisabled(el) || !isShown(el)) continue;
    const label = el.getAttribute('aria-label') ?? (el as HTMLInputElement).labels?.[0]?.textContent ?? el.textContent;
    const name = label?.replace(/\s+/g, ' ').trim();
    if (name && !found.has(name)) found.set(name, el);
  }
  return [...found].map(([name, el]) => ({ name, el }));
}
