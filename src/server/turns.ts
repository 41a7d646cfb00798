import { alone, lockedAmongAll } from './database';
import { shared } from './shared';

const turns = () => shared('turns', () => new Map<string, Promise<unknown>>());

/**
 * One after the other works under a name, in the order in which they came: two changes of a session would be made on the
 * same document, two writers of a take would leave a header that is shorter than it. Where several processes share a
 * database, none of them works under it meanwhile.
 */
export function inTurn<T>(name: string, work: () => Promise<T>): Promise<T> {
  const mine = () => (alone() ? work() : lockedAmongAll(name, work));
  const turn = (turns().get(name) ?? Promise.resolve()).catch(() => {}).then(mine);
  turns().set(name, turn);
  const over = () => {
    if (turns().get(name) === turn) turns().delete(name);
  };
  turn.then(over, over);
  return turn;
}
