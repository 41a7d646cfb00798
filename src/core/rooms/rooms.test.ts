import { describe, expect, it } from 'vitest';
import { newKernels } from '../../../tests/support/kernels';
import {
  arrivalOf,
  delaysByDistance,
  delaysFor,
  deviationOf,
  directionOf,
  freePorts,
  inputFaults,
  inputsFrom,
  newRoom,
  playedAs,
  portsFrom,
  readLow,
  readRoom,
  readRoomFile,
  REFERENCE_LEVELS,
  ROOM_FILE,
  roomFaults,
  setSpeaker,
  sheetPage,
  swappedPairs,
  trimFor,
  wantedOf,
  withLayout,
} from '.';

const k = newKernels();
const room = portsFrom(newRoom('Mixing room', 'standin-room', '5.1'), 3);
const output = { name: 'The monitor', channels: 12 };
const texts = (r: typeof room, o: typeof output | null = output) =>
  roomFaults(r, o).map((f) => `${f.grade}: ${f.text}`);

describe('ports of a room', () => {
  it('stand in order from a first one; what is free is listed', () => {
    expect(room.speakers.map((s) => `${s.label} ${s.port}`)).toEqual(['L 3', 'R 4', 'C 5', 'LFE 6', 'Ls 7', 'Rs 8']);
    expect(freePorts(room, 12)).toEqual([1, 2, 9, 10, 11, 12]);
  });
  it('of which two are the same, or one is not there, stop it', () => {
    expect(texts(setSpeaker(room, 'R', { port: 3 }))[0]).toMatch(/^stop: L and R share port 3/);
    expect(texts(portsFrom(room, 8))[0]).toMatch(/^stop: The monitor has 12 ports; Rs stands beyond them/);
    expect(texts(room, null)[0]).toMatch(/^stop: Its output is not there/);
    expect(texts(setSpeaker(room, 'C', { port: null }))[0]).toMatch(/^warn: C has no port and stays silent/);
  });
  it('are kept by what has the same label in another layout', () => {
    const wide = withLayout(setSpeaker(room, 'C', { trim: -2 }), '7.1');
    expect(wide.speakers.find((s) => s.label === 'C')).toMatchObject({ port: 5, trim: -2 });
    expect(wide.speakers.find((s) => s.label === 'Lss')!.port).toBeNull();
  });
  it('are counted in the order of channels that the device has them in, and never change names', () => {
    const film = portsFrom(room, 1, 'film');
    expect(film.speakers.map((s) => `${s.label} ${s.port}`)).toEqual(['L 1', 'R 3', 'C 2', 'LFE 6', 'Ls 4', 'Rs 5']);
    const mics = inputsFrom(room, 'standin-eight', 2, 'pairs');
    expect(mics.inputs).toEqual({ device: 'standin-eight', lines: [2, 3, 6, 7, 4, 5] });
    expect(mics.speakers).toEqual(room.speakers);
    // A layout without them leaves out what has no speaker; the others keep their lines.
    expect(withLayout(mics, 'quad').inputs?.lines).toEqual([2, 3, 4, 5]);
    expect(withLayout(mics, '5.1.2').inputs?.lines).toEqual([2, 3, 6, 7, 4, 5, null, null]);
  });
  it('of microphones: the same line twice, and lines that are not there, are told', () => {
    const mics = inputsFrom(room, 'eight', 2);
    const of = (r: typeof room, device: { name: string; lines: number } | null) =>
      inputFaults(r, device).map((f) => `${f.grade}: ${f.text}`);
    const eight = { name: 'The interface', lines: 8 };
    expect(of(mics, eight)).toEqual([]);
    expect(of(room, null)).toEqual([]);
    expect(of(inputsFrom(room, 'eight', 4), eight)[0]).toMatch(/^stop: The interface has 8 lines; .* of Rs stand/);
    expect(of({ ...mics, inputs: { device: 'eight', lines: [1, 1, null, 4, 5, 6] } }, eight)).toEqual([
      expect.stringMatching(/^stop: .* L and R share line 1/),
      'note: No microphone for C.',
    ]);
    expect(of(mics, null)[0]).toMatch(/^stop: The device of the microphones is not there/);
  });
  it('tell where a speaker stands elsewhere, is muted, or was never calibrated', () => {
    const moved = setSpeaker(setSpeaker(room, 'Ls', { azimuth: 150 }), 'R', { muted: true });
    expect(texts(moved)).toEqual([
      'note: Ls stands more than 15° from where 5.1 has it.',
      'note: R muted in this room.',
      'note: Never calibrated.',
    ]);
  });
  it('say how a mix of another layout plays', () => {
    expect(playedAs(room, '5.1')).toBeNull();
    expect(playedAs(room, 'stereo')).toMatch(/the other speakers of 5.1 stay silent/);
    expect(playedAs(room, '7.1')).toMatch(/Lrs, Rrs, Lss, Rss is folded/);
  });
});

describe('a room from a file', () => {
  const file = (part: object) => ({ ...room, ...part });
  it('comes back as it went', () => {
    expect(readRoomFile(JSON.parse(JSON.stringify({ format: ROOM_FILE, version: 1, rooms: [room] })))).toEqual([room]);
  });
  it('keeps its microphones; one of an earlier release has none', () => {
    const mics = inputsFrom(room, 'standin-eight', 1);
    expect(readRoom(JSON.parse(JSON.stringify(mics)))).toEqual(mics);
    const { inputs: _, ...before } = room;
    expect(readRoom(before).inputs).toBeNull();
  });
  it.each([
    [{ layout: '6.1' }, /no layout "6.1"/],
    [{ name: '' }, /name/],
    [{ inputs: { device: 'eight', lines: [1, 2] } }, /5.1 has 6 speakers; its microphones are 2/],
    [{ inputs: { device: 'eight', lines: [1, 2, 3, 0.5, 5, 6] } }, /lines/],
    [{ speakers: room.speakers.slice(1) }, /5.1 has the speakers L R C LFE Ls Rs/],
    [{ speakers: [{ ...room.speakers[0], trim: 40 }, ...room.speakers.slice(1)] }, /speaker L.*trim/],
    [{ speakers: [{ ...room.speakers[0], port: 1.5 }, ...room.speakers.slice(1)] }, /port/],
    [
      { calibration: { at: 'yesterday', level: 79, noise: -20, readings: [], found: [] } },
      /calibration cannot be read/,
    ],
    [{ extra: 1 }, /extra/],
  ])('that holds %o is refused with what is wrong', (part, message) => {
    expect(() => readRoom(file(part))).toThrow(message);
  });
  it('that is none says so', () => {
    expect(() => readRoomFile({ rooms: [room] })).toThrow(/no file of rooms/);
    expect(() => readRoomFile(null)).toThrow(/nothing was taken in/);
  });
});

describe('levels', () => {
  it('are wanted as the publication has them: SMPTE RP 200 (from memory), LFE 10 dB up in its band', () => {
    const film = REFERENCE_LEVELS.find((r) => r.id === 'film')!;
    const wanted = wantedOf(room, film.level(5), film.surround);
    expect(wanted[0]).toBeCloseTo(85, 1);
    expect(wanted[4]).toBeCloseTo(82, 1);
    expect(wanted[3]! - readLow([40, 80])).toBeCloseTo(95, 9);
    // EBU Tech 3276 (from memory): 85 - 10 log n.
    expect(REFERENCE_LEVELS.find((r) => r.id === 'r128')!.level(5)).toBeCloseTo(78.01, 2);
  });
  // IEC 61672-1, table of C: -2.0, -1.3, -0.8 and -0.5 dB at 40, 50, 63 and 80 Hz (from memory); flat from 500 to 2000.
  it('a C-weighted meter reads low bands lower', () => {
    expect(readLow([40, 80])).toBeCloseTo(-1.1, 1);
    expect(Math.abs(readLow([500, 2000]))).toBeLessThan(0.1);
  });
  // EBU Tech 3276 asks for A: -34.6, -30.2, -26.2 and -22.5 dB at 40, 50, 63 and 80 Hz (from memory).
  it('an A-weighted meter hardly reads an LFE, which is reckoned with', () => {
    const wanted = wantedOf(room, 78, 0, 'A');
    expect(wanted[0]).toBeCloseTo(78, 0);
    expect(wanted[3]! - 88).toBeCloseTo(
      10 * Math.log10((10 ** -3.46 / 2 + 10 ** -3.02 + 10 ** -2.62 + 10 ** -2.25 / 2) / 3),
      0,
    );
  });
  it('become trims, on top of what is set; out of reach there is none', () => {
    const [l] = room.speakers;
    expect(trimFor({ ...l!, trim: -1.5 }, 80.4, 79)).toBe(-2.9);
    expect(trimFor(l!, 60, 79)).toBeNull();
    expect(trimFor({ ...l!, trim: 0 }, 110, 79)).toBeNull();
  });
  it('have the largest of their deviations; none while nothing was read again', () => {
    const one = { label: 'L', before: 80, after: 79.2, wanted: 79 };
    expect(deviationOf([one, { ...one, after: 78.7 }])).toBeCloseTo(0.3, 9);
    expect(deviationOf([{ ...one, after: null }])).toBeNull();
  });
});

describe('time', () => {
  // 343.2 m/s at 20 °C: 2.914 ms a metre.
  it('by distances: the nearest waits the longest', () => {
    const far = setSpeaker(room, 'C', { distance: 3 });
    expect(delaysByDistance(far)).toEqual([2.91, 2.91, 0, 2.91, 2.91, 2.91]);
  });
  it('by arrivals: on top of what waits already, the least is nought; what was not heard stays', () => {
    const now = setSpeaker(room, 'L', { delay: 1 });
    expect(delaysFor(now, [148, 100, 196, null, 100, 100], 48_000)).toEqual([2, 2, 0, 0, 2, 2]);
  });
});

describe('a burst', () => {
  const sent = Float32Array.from({ length: 480 }, (_, i) => Math.sin(i * i * 0.0008));
  const heardAt = (delay: number, gain: number, also: [number, number][] = []) => {
    const heard = new Float32Array(4_000);
    for (const [at, by] of [[delay, gain] as [number, number], ...also])
      sent.forEach((x, i) => (heard[at + i] = heard[at + i]! + by * x));
    return heard;
  };
  it('is found to the sample, with its sign and level, under a louder reflection', () => {
    const found = arrivalOf(k, sent, heardAt(700, -0.25, [[1_400, 0.3]]), 3_000)!;
    expect(found.delay).toBeCloseTo(700, 0);
    expect(found).toMatchObject({ sign: -1 });
    expect(found.level).toBeCloseTo(-12.04, 1);
  });
  it('that was not heard is not found', () => {
    expect(arrivalOf(k, sent, new Float32Array(4_000), 3_000)).toBeNull();
    const other = Float32Array.from({ length: 4_000 }, (_, i) => Math.sin(i * 0.9));
    expect(arrivalOf(k, sent, other, 3_000)).toBeNull();
  });
});

describe('directions', () => {
  it.each([
    [30, 0, 2],
    [-110, 0, 3],
    [135, 45, 2.4],
  ])(
    '%i°, %i° above, at %f m: found from four places within 2°, also by a wrong distance',
    (azimuth, elevation, metres) => {
      const rad = Math.PI / 180;
      const flat = metres * Math.cos(elevation * rad);
      const at = [flat * Math.cos(azimuth * rad), flat * Math.sin(azimuth * rad), metres * Math.sin(elevation * rad)];
      const delay = (x: number, y: number, z: number) =>
        (Math.hypot(at[0]! - x, at[1]! - y, at[2]! - z) / 343.2) * 48_000 + 500;
      const delays = { seat: delay(0, 0, 0), front: delay(0.25, 0, 0), left: delay(0, 0.25, 0), up: delay(0, 0, 0.25) };
      for (const distance of [metres, metres * 1.2]) {
        const found = directionOf(delays, distance, 48_000);
        expect(Math.abs(found.azimuth - azimuth)).toBeLessThan(2);
        expect(Math.abs(found.elevation - elevation)).toBeLessThan(2);
      }
    },
  );
  it('tell which cables are swapped, also where speakers stand a little aside', () => {
    const heard = (label: string, azimuth: number, from: number | null) => ({
      ...{ label, azimuth, elevation: 0, from: from === null ? null : { azimuth: from, elevation: 0 } },
    });
    const row = [
      heard('L', 30, 28),
      heard('R', -30, -110),
      heard('C', 0, null),
      heard('Ls', 110, 135),
      heard('Rs', -110, -33),
    ];
    expect(swappedPairs(row)).toEqual([['R', 'Rs']]);
    expect(swappedPairs(row.map((s) => ({ ...s, from: { azimuth: s.azimuth + 25, elevation: 0 } })))).toEqual([]);
  });
});

describe('the sheet', () => {
  it('holds every speaker and what was found, and lets nothing of a name through', () => {
    const calibrated = {
      ...room,
      name: '<b>Room</b>',
      calibration: {
        ...{
          at: '2026-03-02T09:00:00.000Z',
          level: 79,
          noise: -20,
          weighting: 'C' as const,
          found: ['R was swapped.'],
        },
        readings: [{ label: 'L', before: 80.4, after: 79.1, wanted: 79 }],
      },
    };
    const page = sheetPage(calibrated);
    for (const text of [
      '80.4',
      '79.1',
      '+0.1',
      'R was swapped.',
      '&lt;b&gt;Room',
      '0.1 dB, within 0.5 dB',
      '2026-03-02 09:00',
    ])
      expect(page).toContain(text);
    expect(page).not.toContain('<b>Room');
    expect(sheetPage(room)).toContain('Never calibrated.');
  });
});
