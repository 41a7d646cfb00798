import { screen, within } from '@testing-library/react';
import { expect, it } from 'vitest';
import { docNow, showPanel } from '../../../tests/support/panel';
import { monoTrack, sessionWith } from '../../../tests/support/session';
import { ChainView } from './chainView';

const owner = { kind: 'track', id: 'p' } as const;
const show = () =>
  showPanel(
    <ChainView owner={owner} />,
    sessionWith(monoTrack('p', 'Pilot'), monoTrack('q', 'Lad'), {
      type: 'setChain',
      owner,
      chain: [
        { id: 'cut', type: 'lowCut', on: true, values: { frequency: 80, slope: 12 } },
        { id: 'lim', type: 'limiter', on: true, values: { ceiling: -1, release: 80, limits: 0, link: 1 } },
      ],
    }),
  );
const chain = () => docNow().tracks[0]!.chain;
const card = (type: string) => document.querySelector<HTMLElement>(`[data-stage="${type}"]`)!;

it('a stage is put behind the others from the list', async () => {
  const { user } = show();
  await user.click(screen.getByRole('button', { name: 'Stage' }));
  await user.click(screen.getByRole('menuitem', { name: 'Compressor' }));
  expect(chain().map((s) => s.type)).toEqual(['lowCut', 'limiter', 'compressor']);
});

it('a stage is passed by and comes back with its values', async () => {
  const { user } = show();
  const on = screen.getByRole('switch', { name: 'Limiter on' });
  await user.click(on);
  expect(on.getAttribute('aria-checked')).toBe('false');
  expect(within(card('limiter')).getByText('off')).toBeDefined();
  await user.click(on);
  expect(chain()[1]).toMatchObject({ on: true, values: { ceiling: -1 } });
});

it('the delay that a chain makes is told, and belongs to the limiter', () => {
  show();
  // 1.5 ms of look-ahead are 72 samples, less the one that comes out.
  expect(screen.getByText('1.5 ms', { selector: '.small > .figure' })).toBeDefined();
  expect(within(card('lowCut')).queryByText(/ ms$/)).toBeNull();
});

it('is opened, set, moved and removed by keys', async () => {
  const { user } = show();
  const open = within(card('limiter')).getByRole('button', { expanded: false });
  open.focus();
  await user.keyboard('{Enter}');
  const ceiling = within(card('limiter')).getByRole('spinbutton', { name: /Ceiling/ });
  ceiling.focus();
  await user.keyboard('{Enter}{Control>}a{/Control}-3{Enter}');
  expect(chain()[1]!.values.ceiling).toBe(-3);
  await user.click(screen.getByRole('button', { name: 'Earlier in the chain' }));
  expect(chain().map((s) => s.type)).toEqual(['limiter', 'lowCut']);
  await user.click(screen.getByRole('button', { name: 'Remove stage' }));
  expect(chain().map((s) => s.type)).toEqual(['lowCut']);
});

it('a ceiling above full scale is refused with a sentence', async () => {
  const { user } = show();
  await user.click(within(card('limiter')).getByRole('button', { expanded: false }));
  within(card('limiter'))
    .getByRole('spinbutton', { name: /Ceiling/ })
    .focus();
  await user.keyboard('{Enter}{Control>}a{/Control}5{Enter}');
  expect(chain()[1]!.values.ceiling).toBe(-1);
  expect((await screen.findAllByText(/Ceiling/)).length).toBeGreaterThan(1);
});

it('a stage is copied to another track, which is told by name', async () => {
  const { user } = show();
  await user.click(within(card('limiter')).getByRole('button', { expanded: false }));
  await user.click(screen.getByRole('button', { name: 'Copy stage to others' }));
  const dialog = screen.getByRole('dialog');
  await user.click(within(dialog).getByRole('checkbox', { name: 'Lad' }));
  await user.click(within(dialog).getByRole('button', { name: /^Copy/ }));
  expect(docNow().tracks[1]!.chain.map((s) => s.type)).toContain('limiter');
});
