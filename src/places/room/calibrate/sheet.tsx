'use client';
import { toast } from 'sonner';
import { calibrating, saveRoom, useCalibration, type RoomFacts } from '@/client';
import { deviationOf } from '@/core/rooms';

/** What the last calibration found, and what is being set now: to keep, to let go of, to print. */
export function Sheet({ facts }: { facts: RoomFacts }) {
  const draft = useCalibration((s) => s.draft);
  const { calibration } = facts.room;
  const keep = async () => {
    const room = calibrating().result(new Date().toISOString());
    if (!room) return;
    try {
      await saveRoom(facts, room);
      calibrating().discard();
      toast.success(`${room.name} is calibrated. Undo in this room (Ports) takes it back in one step.`);
    } catch (error) {
      toast.error((error as Error).message);
    }
  };
  const deviation = calibration && deviationOf(calibration.readings);
  return (
    <footer className="mt-auto flex items-center gap-3 border-t pt-3">
      <span className="small text-quiet">
        last time{' '}
        <span className="text-text">
          {calibration
            ? `${new Date(calibration.at).toLocaleString('en-GB', { dateStyle: 'medium', timeStyle: 'short' })}, ${calibration.level.toFixed(1)} dB SPL${deviation === null ? '' : `, within ${deviation.toFixed(1)} dB`}`
            : 'never'}
        </span>
      </span>
      {calibration && (
        <a className="btn btn-bare" href={`/api/rooms/${facts.id}/sheet`} target="_blank" rel="noreferrer">
          Sheet
        </a>
      )}
      {draft && (
        <span className="ml-auto flex gap-2">
          <button className="btn" onClick={() => calibrating().discard()}>
            Let go
          </button>
          <button className="btn btn-main" onClick={() => void keep()}>
            Keep this calibration
          </button>
        </span>
      )}
    </footer>
  );
}
