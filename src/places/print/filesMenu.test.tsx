import { render, screen, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { useState } from 'react';
import { beforeEach, expect, it } from 'vitest';
import { monoTrack, sessionWith } from '../../../tests/support/session';
import { useSession } from '@/client';
import { ALL_FILES, askedFiles, FilesMenu, type ChosenFiles } from './filesMenu';

const doc = sessionWith(monoTrack('v', 'Voice'), monoTrack('w', 'Wind'));
let chosen: ChosenFiles = ALL_FILES;

function Menu() {
  const [files, setFiles] = useState(ALL_FILES);
  chosen = files;
  return <FilesMenu chosen={files} onChange={setFiles} />;
}

beforeEach(() => useSession.setState({ id: 's', doc, base: doc, sounding: doc }));

const open = async () => {
  const user = userEvent.setup();
  render(<Menu />);
  await user.click(screen.getByRole('button', { name: 'Which files are printed' }));
  return { user, list: within(screen.getByRole('dialog', { name: 'Which files are printed' })) };
};

it('begins with all files of the brief, and asks for nothing special', async () => {
  const { list } = await open();
  for (const box of list.getAllByRole('checkbox', { name: /5\.1|stereo/ }).slice(0, doc.deliverables.length))
    expect((box as HTMLInputElement).checked).toBe(true);
  expect(askedFiles(doc, chosen)).toEqual({ count: doc.deliverables.length });
});

it('leaves out what is not ticked, and takes tracks beside it', async () => {
  const { user, list } = await open();
  await user.click(list.getAllByRole('button', { name: 'none' })[0]!);
  await user.click(list.getByRole('checkbox', { name: /^Reference/ }));
  await user.click(list.getByRole('checkbox', { name: /^Voice/ }));
  expect(askedFiles(doc, chosen)).toEqual({
    count: 2,
    only: [doc.deliverables.find((d) => d.bus === 'ref' && d.layout === '5.1')!.id],
    beside: ['v'],
  });
  await user.click(list.getAllByRole('button', { name: 'all' })[0]!);
  await user.click(list.getAllByRole('button', { name: 'none' })[1]!);
  expect(askedFiles(doc, chosen)).toEqual({ count: doc.deliverables.length });
});

it('of what is not in the session any more nothing is asked', () => {
  const gone = { without: new Set(['none']), beside: new Set(['v', 'gone']) };
  expect(askedFiles(doc, gone)).toEqual({ count: doc.deliverables.length + 1, beside: ['v'] });
});
