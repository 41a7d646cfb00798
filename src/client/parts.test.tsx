// What is drawn again when the document changes.
import { act, render, screen } from '@testing-library/react';
import { beforeEach, expect, it } from 'vitest';
import { applyEdit, readEdit, type EditJson, type SessionDoc } from '@/core/session';
import { demoDoc } from '../../tests/support/demoDoc';
import { useDoc, useDocPart } from './parts';
import { useSession } from './session';

let drawn = 0;
const edit = (json: EditJson) =>
  act(() => useSession.setState((s) => ({ doc: applyEdit(s.doc!, readEdit(json)).doc })));
beforeEach(() => {
  drawn = 0;
  useSession.setState({ id: 'x', doc: demoDoc() });
});

function Shown({ ask }: { ask: () => unknown }) {
  drawn++;
  return <output>{JSON.stringify(ask())}</output>;
}

const renamed: EditJson = { type: 'setSession', name: 'Another' };
const level: EditJson = { type: 'setTrack', track: 'pilot', level: -7 };

it('parts by their names are drawn again when one of them changes, and with nothing else', () => {
  render(<Shown ask={() => useDoc('name', 'limits').name} />);
  edit(level);
  expect(drawn).toBe(1);
  edit(renamed);
  expect(drawn).toBe(2);
  expect(screen.getByRole('status').textContent).toBe('"Another"');
});

it('all of it is drawn with every edit', () => {
  render(<Shown ask={() => useDoc().name} />);
  edit(level);
  edit(renamed);
  expect(drawn).toBe(3);
});

it('a list is drawn again when a member is another one', () => {
  render(<Shown ask={() => useDocPart((doc) => doc.tracks.map((t) => t.id))} />);
  edit(level);
  edit(renamed);
  expect(drawn).toBe(1);
  edit({ type: 'removeTrack', track: 'pilot' });
  expect(drawn).toBe(2);
  expect(screen.getByRole('status').textContent).not.toContain('pilot');
});

it('what is made anew at each look comes to rest, and follows what it is given', () => {
  const levels = (id: string) => (doc: SessionDoc) =>
    doc.tracks.filter((t) => t.id === id).map((t) => [{ level: t.level }]);
  const { rerender } = render(<Shown ask={() => useDocPart(levels('pilot'))} />);
  edit(level);
  expect(drawn).toBe(2);
  expect(screen.getByRole('status').textContent).toBe('[[{"level":-7}]]');
  rerender(<Shown ask={() => useDocPart(levels('nobody'))} />);
  expect(screen.getByRole('status').textContent).toBe('[]');
});
