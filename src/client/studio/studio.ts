import type { Player } from '@/audio';
import type { SessionAccess } from './access';
import { Calibrating } from './calibrating';
import { Comparing } from './comparing';
import { Devices } from './devices';
import { Disk } from './disk';
import { Engine } from './engine';
import { HeardTake } from './heardTake';
import { Hearing } from './hearing';
import { InRoom } from './inRoom';
import { Levels } from './levels';
import { Listening } from './listening';
import { Marks } from './marks';
import { Outside } from './outside';
import { Overs } from './overs';
import { Recording } from './recording';
import { newRecorderLink, type RecorderLink } from './recorderLink';
import { Ride } from './ride';
import { Takes } from './takes';
import { Transport } from './transport';
import { WhileRecording } from './whileRecording';

/** The world outside: what starts sound, and what keeps takes. */
export interface Surroundings {
  startPlayer?: typeof Player.start;
  recorder?: RecorderLink;
}

/**
 * The studio of one open session: its sound, devices, takes and transport. It is made when a session is opened and ends
 * with it; each part is given those it works with.
 */
export class Studio {
  readonly heardTake = new HeardTake();
  readonly engine: Engine;
  readonly levels: Levels;
  readonly devices: Devices;
  readonly inRoom: InRoom;
  readonly calibrating: Calibrating;
  readonly listening: Listening;
  readonly comparing: Comparing;
  readonly takes: Takes;
  readonly disk: Disk;
  readonly marks: Marks;
  readonly overs: Overs;
  readonly outside: Outside;
  readonly transport: Transport;
  readonly hearing: Hearing;
  readonly ride: Ride;
  readonly whileRecording: WhileRecording;

  constructor(session: SessionAccess, { startPlayer, recorder = newRecorderLink() }: Surroundings = {}) {
    this.engine = new Engine(session, this.heardTake, startPlayer);
    const { engine } = this;
    this.levels = new Levels(engine);
    this.devices = new Devices(session, engine);
    this.inRoom = new InRoom(engine, this.devices);
    this.calibrating = new Calibrating(engine, this.inRoom);
    this.listening = new Listening(session, engine, this.devices);
    this.comparing = new Comparing(engine);
    this.takes = new Takes(session, recorder);
    this.disk = new Disk(session);
    this.marks = new Marks(session);
    this.overs = new Overs(session, engine, () => this.transport.position());
    this.outside = new Outside(this.devices, this.levels, this.listening, this.disk, this.overs, this.inRoom);
    this.transport = new Transport({
      session,
      engine,
      devices: this.devices,
      takes: this.takes,
      recording: new Recording(engine, this.devices, this.takes, this.levels),
      marks: this.marks,
      outside: this.outside,
    });
    this.hearing = new Hearing(session, engine, this.transport, this.heardTake);
    this.ride = new Ride(session, engine, this.transport);
    this.whileRecording = new WhileRecording(session, this.takes, this.transport);
  }

  /** Ends sound and all that was begun for the session; takes go on to be delivered. */
  async close(): Promise<void> {
    this.engine.leave();
    this.calibrating.close();
    this.inRoom.close();
    this.devices.close();
    this.listening.close();
    this.disk.close();
    this.overs.close();
    this.whileRecording.close();
    await this.transport.close();
    this.takes.close();
    this.engine.close();
  }
}
