import { EditRefused } from '../document';
import * as clips from './clips';
import * as clipShape from './clipShape';
import * as comps from './comps';
import * as cues from './cues';
import * as deliverables from './deliverables';
import { Edit, readAs, type EditClass } from './edit';
import * as format from './format';
import * as lanes from './lanes';
import * as lines from './lines';
import * as folds from './folds';
import * as frozen from './frozen';
import * as media from './media';
import * as layClips from './layClips';
import * as manyClips from './manyClips';
import * as monoBuses from './monoBuses';
import * as printing from './printing';
import * as printsBack from './printsBack';
import * as recordedTakes from './recordedTakes';
import * as roomTone from './roomTone';
import * as routing from './routing';
import * as references from './references';
import * as seat from './seat';
import * as sends from './sends';
import * as settings from './settings';
import * as stages from './stages';
import * as takes from './takes';
import * as trackRows from './trackRows';
import * as tracks from './tracks';

/** Every edit by its name. Adding one is one class and one line here. */
const EDITS = {
  addTrack: tracks.AddTrack,
  addTracks: trackRows.AddTracks,
  repeatTrack: trackRows.RepeatTrack,
  removeTrack: tracks.RemoveTrack,
  setTrack: tracks.SetTrack,
  placeTrack: tracks.PlaceTrack,
  orderTracks: tracks.OrderTracks,
  patch: tracks.Patch,
  addLine: lines.AddLine,
  nameLine: lines.NameLine,
  setLine: lines.SetLine,
  substituteDevice: lines.SubstituteDevice,
  nameTracksByLines: lines.NameTracksByLines,
  sendTracks: routing.SendTracks,
  sendBus: routing.SendBus,
  addBus: routing.AddBus,
  splitBus: monoBuses.SplitBus,
  joinBuses: monoBuses.JoinBuses,
  addReference: references.AddReference,
  setReference: references.SetReference,
  addSend: sends.AddSend,
  setSend: sends.SetSend,
  removeSend: sends.RemoveSend,
  removeBus: routing.RemoveBus,
  setBus: routing.SetBus,
  writeLane: lanes.WriteLane,
  setLane: lanes.SetLane,
  removeLane: lanes.RemoveLane,
  setMonitor: seat.SetMonitor,
  seatTrack: seat.SeatTrack,
  seatBus: seat.SeatBus,
  addStage: stages.AddStage,
  removeStage: stages.RemoveStage,
  moveStage: stages.MoveStage,
  switchStage: stages.SwitchStage,
  setStage: stages.SetStage,
  setStageKey: stages.SetStageKey,
  setChain: stages.SetChain,
  copyChain: stages.CopyChain,
  addClip: clips.AddClip,
  moveClip: clips.MoveClip,
  trimClip: clips.TrimClip,
  layClips: layClips.LayClips,
  giveClipFile: clips.GiveClipFile,
  setClipGain: clips.SetClipGain,
  removeClip: clips.RemoveClip,
  shapeClip: clipShape.ShapeClip,
  splitClip: clipShape.SplitClip,
  slipClip: clipShape.SlipClip,
  moveJoint: clipShape.MoveJoint,
  repeatClip: clipShape.RepeatClip,
  moveClips: manyClips.MoveClips,
  removeClips: manyClips.RemoveClips,
  shapeClips: manyClips.ShapeClips,
  copyClips: manyClips.CopyClips,
  compRange: comps.CompRange,
  newComp: comps.NewComp,
  chooseComp: comps.ChooseComp,
  removeComp: comps.RemoveComp,
  setTake: takes.SetTake,
  freezeTrack: frozen.FreezeTrack,
  thawTrack: frozen.ThawTrack,
  freezeBus: frozen.FreezeBus,
  thawBus: frozen.ThawBus,
  nameMedia: media.NameMedia,
  setMediaOrder: media.SetMediaOrder,
  removeMedia: media.RemoveMedia,
  setPicture: media.SetPicture,
  addCues: cues.AddCues,
  setCue: cues.SetCue,
  removeCues: cues.RemoveCues,
  setMarker: cues.SetMarker,
  removeMarker: cues.RemoveMarker,
  addTake: recordedTakes.AddTake,
  lengthenTake: recordedTakes.LengthenTake,
  bringPrintBack: printsBack.BringPrintBack,
  addDeliverable: deliverables.AddDeliverable,
  setDeliverable: deliverables.SetDeliverable,
  removeDeliverable: deliverables.RemoveDeliverable,
  orderDeliverables: deliverables.OrderDeliverables,
  setLimits: deliverables.SetLimits,
  setFold: folds.SetFold,
  removeFold: folds.RemoveFold,
  setWork: settings.SetWork,
  setPrinting: printing.SetPrinting,
  setDefaultDestination: settings.SetDefaultDestination,
  setTempo: settings.SetTempo,
  addRoomTone: roomTone.AddRoomTone,
  nameRoomTone: roomTone.NameRoomTone,
  removeRoomTones: roomTone.RemoveRoomTones,
  fillGaps: roomTone.FillGaps,
  setFormat: format.SetFormat,
  setSession: format.SetSession,
  setRange: format.SetRange,
} satisfies Record<string, EditClass>;

export type EditName = keyof typeof EDITS;
export const EDIT_NAMES = Object.keys(EDITS) as EditName[];

type Members<T> = Omit<
  { [K in keyof T as T[K] extends (...args: never[]) => unknown ? never : K]: T[K] },
  'type' | 'label' | 'personal' | 'risky'
>;

/** An edit as plain JSON: its name and members. */
export type EditJson = { [N in EditName]: { type: N } & Members<InstanceType<(typeof EDITS)[N]>> }[EditName];

/** Validates and makes the edit that `json` names. Throws EditRefused with a sentence that says what is wrong. */
export function readEdit(json: unknown): Edit {
  const type = (json as { type?: unknown } | null)?.type;
  if (typeof type !== 'string' || !EDIT_NAMES.includes(type as EditName)) {
    throw new EditRefused(`There is no edit ${JSON.stringify(type) ?? 'without a type'}; nothing was changed.`);
  }
  return readAs(EDITS[type as EditName] as EditClass, json, type);
}

export { Edit, readAs };
export { SAMPLE_RATES, FILE_KINDS, WORD_LENGTHS } from './format';
export { commonName } from './lines';
export { speakersFor } from './monoBuses';
