import 'reflect-metadata';
import { Type } from 'class-transformer';
import {
  IsArray,
  IsBoolean,
  IsInt,
  IsNumber,
  IsObject,
  IsOptional,
  IsString,
  Length,
  Max,
  Min,
  ValidateIf,
  ValidateNested,
} from 'class-validator';
import { readAs, EditRefused } from '@/core/session';
import { isLayout, layoutOf } from '@/core/speakers';
import { ROOM_LIMITS, type Calibration, type Room, type RoomSpeaker } from './room';

const L = ROOM_LIMITS;

class SpeakerForm {
  @IsString() @Length(1, 8) label!: string;
  @IsNumber() @Min(L.azimuth.min) @Max(L.azimuth.max) azimuth!: number;
  @IsNumber() @Min(L.elevation.min) @Max(L.elevation.max) elevation!: number;
  @IsNumber() @Min(L.distance.min) @Max(L.distance.max) distance!: number;
  @ValidateIf((s: SpeakerForm) => s.port !== null) @IsInt() @Min(L.port.min) @Max(L.port.max) port!: number | null;
  @IsNumber() @Min(L.trim.min) @Max(L.trim.max) trim!: number;
  @IsNumber() @Min(L.delay.min) @Max(L.delay.max) delay!: number;
  @IsBoolean() inverted!: boolean;
  @IsBoolean() muted!: boolean;
}

class InputForm {
  @IsString() @Length(1, 200) device!: string;
  @IsArray()
  @ValidateIf((_, v) => v !== null, { each: true })
  @IsInt({ each: true })
  @Min(L.line.min, { each: true })
  @Max(L.line.max, { each: true })
  lines!: (number | null)[];
}

class RoomForm {
  @IsString() @Length(1, 60) name!: string;
  @IsString() @Length(1, 200) output!: string;
  @IsString() layout!: string;
  @IsOptional() @IsObject() calibration!: Calibration | null;
  @IsOptional() @IsObject() @ValidateNested() @Type(() => InputForm) inputs?: InputForm | null;
}

/**
 * A room from plain JSON: a file, a request, the database. Throws EditRefused with a sentence for what is no room; what a
 * room may not hold is not let through.
 */
export function readRoom(json: unknown): Room {
  const { speakers, ...rest } = (json ?? {}) as { speakers?: unknown };
  const { name, output, layout, calibration, inputs } = readAs(RoomForm, rest, 'room');
  if (!isLayout(layout)) throw new EditRefused(`room: there is no layout "${layout}".`);
  if (!Array.isArray(speakers)) throw new EditRefused('room: speakers are missing.');
  const wanted = layoutOf(layout).speakers;
  const read = speakers.map((s: unknown, i): RoomSpeaker => {
    const label = (s as { label?: unknown } | null)?.label;
    const { ...one } = readAs(SpeakerForm, s, `speaker ${typeof label === 'string' ? label : i + 1}`);
    return { ...one };
  });
  const labels = read.map((s) => s.label).join(' ');
  const should = wanted.map((s) => s.label).join(' ');
  if (labels !== should)
    throw new EditRefused(`room: ${layoutOf(layout).name} has the speakers ${should}, not ${labels}.`);
  if (inputs && inputs.lines.length !== wanted.length)
    throw new EditRefused(
      `room: ${layoutOf(layout).name} has ${wanted.length} speakers; its microphones are ${inputs.lines.length}.`,
    );
  return {
    name: name.trim(),
    output,
    layout,
    speakers: read,
    calibration: readCalibration(calibration),
    // Rooms of an earlier release have none.
    inputs: inputs ? { device: inputs.device, lines: [...inputs.lines] } : null,
  };
}

const isFigure = (v: unknown): v is number => typeof v === 'number' && Number.isFinite(v);

function readCalibration(c: Calibration | null | undefined): Calibration | null {
  if (!c) return null;
  const readings = Array.isArray(c.readings) ? c.readings : [];
  const fits =
    typeof c.at === 'string' &&
    !Number.isNaN(Date.parse(c.at)) &&
    isFigure(c.level) &&
    isFigure(c.noise) &&
    ['A', 'C'].includes(c.weighting) &&
    readings.every((r) => typeof r.label === 'string' && isFigure(r.wanted)) &&
    Array.isArray(c.found) &&
    c.found.every((f) => typeof f === 'string');
  if (!fits)
    throw new EditRefused('room: its calibration cannot be read. Take it out of the file, and calibrate anew.');
  const figure = (v: unknown) => (isFigure(v) ? v : null);
  return {
    ...{ at: c.at, level: c.level, noise: c.noise, weighting: c.weighting, found: [...c.found] },
    readings: readings.map(({ label, before, after, wanted }) => ({
      ...{ label, wanted, before: figure(before), after: figure(after) },
    })),
  };
}

/** Form of files that hold rooms. */
export const ROOM_FILE = 'wide-room-rooms';

/** Rooms of a file. Throws EditRefused with a sentence when it is none; nothing is taken in by halves. */
export function readRoomFile(json: unknown): Room[] {
  const file = json as { format?: unknown; rooms?: unknown } | null;
  if (file?.format !== ROOM_FILE || !Array.isArray(file.rooms) || file.rooms.length === 0)
    throw new EditRefused('This is no file of rooms of Wide Room; nothing was taken in.');
  return file.rooms.map(readRoom);
}
