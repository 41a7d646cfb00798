import { toast } from 'sonner';
import { Ended, stop, useTransport } from '@/client';

// What somebody ended is no fault.
const told = (error: Error): void => {
  if (!(error instanceof Ended)) toast.error(error.message, { duration: 10_000 });
};

/** Does a step of a calibration; what plays ends first, a recording goes on and is told. What cannot be done is told. */
export function run(work: () => void | Promise<void>): void {
  if (useTransport.getState().state === 'recording') {
    toast.warning('A take is being recorded: nothing sounds in the room meanwhile. Stop first.', { id: 'room' });
    return;
  }
  stop();
  try {
    void Promise.resolve(work()).catch(told);
  } catch (error) {
    told(error as Error);
  }
}
