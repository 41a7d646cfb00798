import { screen } from '@testing-library/react';
import { expect, it } from 'vitest';
import { docNow, showPanel } from '../../../../tests/support/panel';
import { monoTrack, sessionWith } from '../../../../tests/support/session';
import { useTrack } from '@/client';
import type { LayoutId } from '@/core/speakers';
import { PlacementFields } from './placementFields';

function Selected() {
  return <PlacementFields track={useTrack('p')!} />;
}
const show = (layout: LayoutId = 'mono') =>
  showPanel(
    <Selected />,
    layout === 'mono'
      ? sessionWith(monoTrack('p', 'Pilot'))
      : sessionWith({ type: 'addTrack', id: 'p', name: 'Pilot', layout, destination: 'dia' }),
  );
const placed = () => docNow().tracks[0]!.placement;

it('arrow keys turn a source, and figures put it where one wants it', async () => {
  const { user } = show();
  screen.getByRole('spinbutton', { name: 'azimuth' }).focus();
  await user.keyboard('{ArrowUp}{ArrowUp}');
  expect(placed().azimuth).toBe(2);
  await user.keyboard('{Enter}{Control>}a{/Control}-110{Enter}');
  expect(placed().azimuth).toBe(-110);
  screen.getByRole('spinbutton', { name: 'distance' }).focus();
  await user.keyboard('{Enter}{Control>}a{/Control}50{Enter}');
  expect(placed()).toMatchObject({ azimuth: -110, distance: 0.5 });
});

it('the centre of the room is one press away', async () => {
  const { user } = show();
  await user.click(screen.getByRole('button', { name: 'To the centre' }));
  expect(placed().distance).toBe(0);
});

it('what is beyond the room is told and changes nothing', async () => {
  const { user } = show();
  screen.getByRole('spinbutton', { name: 'height' }).focus();
  await user.keyboard('{Enter}{Control>}a{/Control}400{Enter}');
  expect(placed().elevation ?? 0).toBe(0);
  expect(await screen.findByText(/400/)).toBeDefined();
});

it('one source has a spread, two have a width, and more stand where their names say', () => {
  show().unmount();
  show('stereo');
  expect(screen.getByRole('spinbutton', { name: 'width' })).toBeDefined();
  expect(screen.queryByRole('spinbutton', { name: 'spread' })).toBeNull();
});

it('a source of more channels has no place of its own', () => {
  show('5.1');
  expect(screen.queryByRole('spinbutton')).toBeNull();
  expect(screen.getByText(/its channels go to the speakers of/)).toBeDefined();
});
