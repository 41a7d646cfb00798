import { shared } from '../shared';

const turns = () => shared('recording-writers', () => new Map<string, Promise<unknown>>());

/** One after the other works on a recording: two writers would leave a header that is shorter than the take. */
export function oneWriter<T>(id: string, work: () => Promise<T>): Promise<T> {
  const turn = (turns().get(id) ?? Promise.resolve()).catch(() => {}).then(work);
  turns().set(id, turn);
  const over = () => {
    if (turns().get(id) === turn) turns().delete(id);
  };
  turn.then(over, over);
  return turn;
}
