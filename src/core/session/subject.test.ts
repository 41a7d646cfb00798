import { expect, it } from 'vitest';
import { applied, monoTrack, sessionWith, take } from '../../../tests/support/session';
import { subjectOf } from '.';

const doc = applied(
  sessionWith(monoTrack('a', 'Pilot'), monoTrack('b', 'Boat'), monoTrack('c', 'Ropes'), take('t1', 'a', 0, 48_000)),
  { type: 'addCues', cues: [{ id: 'q', number: '17', start: 0, end: 9, character: 'Pilot', text: 'Hold her.' }] },
);

it.each([
  [[{ type: 'setTrack', track: 'a', level: -3 }], 'Pilot'],
  [[{ type: 'setTake', track: 'a', take: 't1', circled: true }], 'Pilot, take 1'],
  [[{ type: 'addTake', id: 't1', track: 'a', start: 0 }], 'Pilot, take 1'],
  [[{ type: 'setCue', cue: 'q', done: true }], 'cue 17'],
  [[{ type: 'addStage', owner: { kind: 'bus', id: 'nar' }, id: 'x', stage: 'eq' }], 'Narration'],
  [[{ type: 'sendTracks', tracks: ['a', 'b'], destination: 'nar' }], 'Pilot, Boat'],
  [[{ type: 'orderTracks', order: ['c', 'a', 'b'] }], 'Ropes and 2 more'],
  [[{ type: 'addTracks', tracks: [{ id: 'n1', name: 'Gulls' }] }], 'Gulls'],
  [[{ type: 'writeLane', target: { node: 'a', param: 'level' }, from: 0, to: 9, points: [] }], 'Pilot'],
  [[{ type: 'addSend', owner: 'b', id: 's', to: 'nar' }], 'Boat'],
  [[{ type: 'removeTrack', track: 'gone' }], ''],
  [[{ type: 'setMonitor', dimmed: true }], ''],
  [[], ''],
])('%j is about "%s"', (edits, subject) => expect(subjectOf(doc, edits)).toBe(subject));
