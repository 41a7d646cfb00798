import type { Heard } from './heardTake';
import type { ChosenStretch } from './marks';
import type { TestSound } from '@/audio';
import type { Mend } from '@/core/checks';
import type { HeardAs } from '@/core/engine';
import type { ToConsole } from '@/standins';
import type { LaneTarget, RecordMode } from '@/core/session';
import { hearSamples as hear, recordLine as fromLine } from './emptyRoom';
import { measureDelay as measure, type MeasuredDelay } from './delay';
import { kept, studio } from './open';
import type { Side } from './comparing';
import type { RideMode } from './ride';
import { useSession, edit } from '../session';

// What the interface asks of the open studio.
export { openStudio } from './open';
export { gapText, type RunningTake } from './takes';
export { comparedGain, type Side } from './comparing';
export type { DeviceState } from './devices';
export { BROWSER_OUTPUT, heardName } from './inRoom';
export { Ended } from './measuringMic';
export type { Aim, Step } from './calibrating';
export type { Heard } from './heardTake';
export type { RollState } from './transport';
export type { RideMode } from './ride';
export type { MeasuredDelay } from './delay';

/** Seconds that the browser buffers of the sound that runs; null before the first sound, and where it does not say. */
export const bufferNow = (): number | null => studio().engine.player?.buffered || null;

export const useTransport = kept((s) => s.transport.state);
export const useDevices = kept((s) => s.devices.state);
export const useTakes = kept((s) => s.takes.state);
export const useListening = kept((s) => s.listening.state);
export const useComparing = kept((s) => s.comparing.state);
export const useHearing = kept((s) => s.heardTake.state);
export const useChainQuestion = kept((s) => s.whileRecording.question);
export const useDisk = kept((s) => s.disk.state);
export const useRide = kept((s) => s.ride.state);
export const useOvers = kept((s) => s.overs.state);
export const useStretch = kept((s) => s.marks.stretch);
export const useCue = kept((s) => s.marks.cue);
export const useInRoom = kept((s) => s.inRoom.state);
export const useCalibration = kept((s) => s.calibrating.state);

export const play = () => studio().transport.play();
export const playStretch = (stretch: { start: number; end: number }, round = false) =>
  studio().transport.playStretch(stretch, round);
export const stop = () => studio().transport.stop();
export const toggle = () => studio().transport.toggle();
export const locate = (sample: number) => studio().transport.locate(sample);
export const position = () => studio().transport.position();
export const record = (knowingly = false) => studio().transport.record(knowingly);
export const rollBack = () => studio().transport.rollBack();
export const setMode = (mode: RecordMode) => studio().transport.setMode(mode);
export const dismissAsked = () => studio().transport.dismissAsked();

/** Arms a track for this seat, or disarms it. */
export function arm(track: string): void {
  const t = useSession.getState().doc?.tracks.find((x) => x.id === track);
  if (t) edit({ type: 'seatTrack', track, armed: !t.armed });
}

export const setStretch = (stretch: ChosenStretch | null) => studio().marks.setStretch(stretch);
export const chooseCue = (chosen: string | null) => studio().marks.cue.setState({ chosen });
export const chosenCue = () => studio().marks.chosenCue(useTransport.getState().position);

export const hearTake = (heard: Heard) => studio().hearing.hearTake(heard);
export const hearComp = () => studio().hearing.hearComp();

export const showDevice = (id: string) => studio().devices.show(id);
export const refreshDevices = () => studio().devices.refresh();
export const allowInputs = () => studio().devices.allowInputs();
export const plug = (id: string, into: boolean) => studio().devices.plug(id, into);
export const switchOn = (id: string) => studio().devices.switchOn(id);
export const switchOff = (id: string) => studio().devices.switchOff(id);
export const tellConsole = (id: string, message: ToConsole) => studio().devices.tellConsole(id, message);
/** Does what mends a finding: edits, or something at a device. False: an edit was refused. */
export function mend({ edits, act }: Mend): boolean {
  if (act) void studio().devices.mend(act);
  return edits.length === 0 || edit(...edits);
}

export const measureDelay = (device: string, line: number): Promise<MeasuredDelay> =>
  measure(studio().engine, device, line);

export const listenTo = (device: string) => studio().listening.listenTo(device);
export const stopListening = () => studio().listening.stop();
export const forgetHeard = (line: string) => studio().listening.forget(line);

/** Records a line straight from its device. */
export const recordLine = (
  line: { device: string; channel: number; seconds: number },
  onShare: (share: number) => void,
  signal: AbortSignal,
) => {
  studio().listening.stop();
  return fromLine(studio().engine, line, onShare, signal);
};
/** Sounds samples once; resolves to what ends it. */
export const hearSamples = (channels: readonly Float32Array[]) => hear(studio().engine, channels);

export const compareSide = (chain: string, side: Side) => studio().comparing.side(chain, side);
export const forgetSide = (side: Side) => studio().comparing.forget(side);
export const matchSides = (matched: boolean) => studio().comparing.match(matched);
export const endComparing = () => studio().comparing.end();

export const watchChain = (node: string, stage: string | null) => studio().engine.watch(node, stage);
export const readLevel = (key: string) => studio().levels.level(key);
export const recentLevel = (key: string) => studio().levels.recent(key);
export const readReductions = (stage: string) => studio().levels.reductionsOf(stage);
export const readReduction = (stage: string) => studio().levels.reduction(stage);
export const readProbe = () => studio().levels.probe;
export const readFold = () => studio().levels.foldNow();
export const readLoudness = () => studio().levels.loudnessNow();

export const rideMove = (target: LaneTarget, value: number) => studio().ride.move(target, value);
export const rideRelease = (target: LaneTarget) => studio().ride.release(target);
export const rideValueOf = (target: LaneTarget) => studio().ride.valueOf(target);
export const rideModeOf = (target: LaneTarget) => studio().ride.modeOf(target);
export const setRideMode = (target: LaneTarget, mode: RideMode) => studio().ride.setMode(target, mode);
export const clearOvers = (bus?: string) => studio().overs.clear(bus);
export const deliverLeftTakes = () => studio().takes.deliverLeft();
export const answerChainQuestion = (yes: boolean) => studio().whileRecording.answer(yes);
export const live = () => studio().transport.facing();
/** The calibration of the chosen room. */
export const calibrating = () => studio().calibrating;

/** Starts sound where it does not run yet, and switches the chosen room's output on. */
export async function openRoom(): Promise<void> {
  await studio().engine.sound();
  studio().inRoom.reopen();
}
export const hearAs = (heardAs: HeardAs | null) => studio().inRoom.hearAs(heardAs);
export const hearAround = (head: boolean) => studio().inRoom.hearAround(head);

/** Sounds test signals on loudspeakers of the room (null: silence); playing stops first. Not while a take is recorded. */
export function testSound(sound: TestSound | null): boolean {
  const { engine, transport } = studio();
  const { state } = transport.state.getState();
  if (sound && (state === 'recording' || state === 'starting')) return false;
  if (sound && state !== 'stopped') transport.stop();
  void engine.player?.test(sound);
  return true;
}

export const lookAtDisk = () => studio().disk.look();
