import { describe, expect, it } from 'vitest';
import { withDatabase } from '../../../tests/support/database';
import { newRoom, portsFrom, setSpeaker } from '@/core/rooms';
import { isLayout } from '@/core/speakers';
import * as rooms from '.';

withDatabase();

const room = portsFrom(newRoom('Mixing room', 'standin-room', '5.1'), 3);

describe('rooms', () => {
  it('are kept, changed, and taken back step by step', async () => {
    const made = await rooms.addRoom(room);
    expect(made).toMatchObject({ revision: 1, undo: false, room });
    const once = await rooms.setRoom(made.id, { revision: 1, room: setSpeaker(room, 'L', { trim: -2 }) });
    const twice = await rooms.setRoom(made.id, { revision: 2, room: setSpeaker(once.room, 'R', { trim: -3 }) });
    expect(twice).toMatchObject({ revision: 3, undo: true });
    const back = await rooms.undoRoom(made.id, { revision: 3 });
    expect(back.room).toEqual(once.room);
    expect((await rooms.undoRoom(made.id, { revision: 4 })).room).toEqual(room);
    await expect(rooms.undoRoom(made.id, { revision: 5 })).rejects.toThrow(/Nothing of this room/);
    expect(await rooms.listRooms()).toEqual([{ id: made.id, revision: 5, room, undo: false }]);
  });
  it('that another window changed meanwhile are not written over', async () => {
    const { id } = await rooms.addRoom({ ...room, name: 'Studio' });
    const both = await Promise.allSettled(
      [-1, -2].map((trim) =>
        rooms.setRoom(id, { revision: 1, room: { ...setSpeaker(room, 'L', { trim }), name: 'Studio' } }),
      ),
    );
    expect(both.map((b) => b.status).sort()).toEqual(['fulfilled', 'rejected']);
    expect(both.find((b) => b.status === 'rejected')).toMatchObject({ reason: { status: 409 } });
  });
  it('have names of their own, and are refused with what is wrong', async () => {
    await expect(rooms.addRoom(room)).rejects.toThrow(/a room called Mixing room already/);
    await expect(rooms.addRoom({ ...room, layout: 'none' })).rejects.toThrow(/no layout "none"/);
    await expect(rooms.setRoom('gone', { revision: 1, room: { ...room, name: 'X' } })).rejects.toThrow(
      /not there any more/,
    );
  });
  it('go out as a file and come in again under a free name; nothing comes in by halves', async () => {
    const [first] = await rooms.listRooms();
    const { name, file } = await rooms.roomFile(first!.id);
    expect(name).toBe('Mixing room');
    const [taken] = await rooms.importRooms(JSON.parse(JSON.stringify(file)));
    expect(taken!.room).toEqual({ ...first!.room, name: 'Mixing room 2' });
    const before = (await rooms.listRooms()).length;
    await expect(rooms.importRooms({ ...file, rooms: [room, { name: 'half' }] })).rejects.toThrow(/room/);
    expect(await rooms.listRooms()).toHaveLength(before);
    await rooms.removeRoom(taken!.id);
    expect(await rooms.listRooms()).toHaveLength(before - 1);
  });
});

describe('layouts of one’s own', () => {
  const speakers = [
    { label: 'L', azimuth: 30, elevation: 0 },
    { label: 'R', azimuth: -30, elevation: 0 },
    { label: 'Top', azimuth: 0, elevation: 90 },
  ];
  it('are kept by name, written over, removed, and refused with what is wrong', async () => {
    const { id } = await rooms.keepLayout({ name: 'Dome', speakers });
    expect(isLayout(id)).toBe(true);
    const again = await rooms.keepLayout({ name: 'dome', speakers: speakers.slice(0, 2) });
    expect((await rooms.listLayouts()).map((l) => l.id)).toEqual([again.id]);
    await expect(rooms.keepLayout({ name: 'Bad', speakers: [speakers[0]!, speakers[0]!] })).rejects.toThrow(
      /two speakers are called L/,
    );
    await expect(rooms.keepLayout({ name: 'Bad', speakers: [] })).rejects.toThrow(
      /has 1 to \d+ speakers; 0 were given/,
    );
    await rooms.removeLayout('dome');
    expect(await rooms.listLayouts()).toEqual([]);
  });
});
