'use client';
import { UserRound } from 'lucide-react';
import { Popover } from 'radix-ui';
import { toast } from 'sonner';
import { ask, nameMe, usePeople, type Person } from '@/client';
import { TextField, Tip } from '@/parts';

const COLOURS = ['#4fa3a5', '#b58bd9', '#d98b6a', '#8fae4e', '#6f8fd9', '#c7a94f'];
const COLOUR_NAMES = ['teal', 'lilac', 'clay', 'moss', 'blue', 'sand'];

const told = (p: Person): string => p.name || 'somebody without a name';

/** A round mark with the first letter of the name. */
function Mark({ person }: { person: Person }) {
  return (
    <span
      className="small grid size-5 place-items-center rounded-full border-[1.5px] bg-panel font-[620]"
      style={{ borderColor: COLOURS[person.hue] }}
      aria-hidden
    >
      {person.name ? person.name[0]!.toUpperCase() : <UserRound size={11} />}
    </span>
  );
}

const name = (part: { name?: string; hue?: number }) =>
  void nameMe(part).catch((error: Error) => toast.error(error.message, { id: 'me' }));

const signOut = () =>
  void ask('/api/sign-in', undefined, 'DELETE').then(
    () => window.location.assign('/sign-in'),
    (error: Error) => toast.error(error.message),
  );

/** Who has this session open; and what one is called oneself. */
export function PeopleHere() {
  const { here, me, signedIn } = usePeople();
  if (!me) return null;
  const others = here.filter((p) => p.seat !== me.seat);
  return (
    <Popover.Root>
      <Tip text={others.length ? `Here: you, ${others.map(told).join(', ')}` : 'You are alone here'}>
        <Popover.Trigger className="btn btn-bare flex shrink-0 -space-x-1.5 px-1" aria-label="Who is here">
          {[me, ...others].slice(0, 2).map((p) => (
            <Mark key={p.seat} person={p} />
          ))}
          {others.length > 1 && <span className="figure pl-2.5 text-quiet">+{others.length - 1}</span>}
        </Popover.Trigger>
      </Tip>
      <Popover.Portal>
        <Popover.Content align="end" sideOffset={8} className="pop w-70 bg-panel p-4">
          <h3 className="title mb-3">Who is here</h3>
          <div className="flex items-center gap-2">
            <Mark person={me} />
            <TextField
              label="Your name"
              value={me.name}
              placeholder="your name"
              maxLength={30}
              mayBeEmpty
              className="min-w-0 flex-1"
              onChange={(text) => name({ name: text })}
            />
          </div>
          <div role="radiogroup" aria-label="Your colour" className="mt-2 flex gap-1.5 pl-7">
            {COLOURS.map((colour, hue) => (
              <button
                key={colour}
                role="radio"
                aria-checked={me.hue === hue}
                aria-label={COLOUR_NAMES[hue]}
                className="size-4 rounded-full border-2"
                style={{ background: colour, borderColor: me.hue === hue ? 'var(--text)' : 'transparent' }}
                onClick={() => name({ hue })}
              />
            ))}
          </div>
          {others.length > 0 && (
            <ul className="mt-3 border-t pt-3" aria-label="Others">
              {others.map((p) => (
                <li key={p.seat} className="flex items-center gap-2 py-0.5">
                  <Mark person={p} />
                  <span className={p.name ? '' : 'text-quiet'}>{told(p)}</span>
                </li>
              ))}
            </ul>
          )}
          {signedIn.login !== null && (
            <p className="mt-3 flex items-center justify-between gap-2 border-t pt-3">
              <span>
                Signed in as {signedIn.login}
                {signedIn.role === 'listener' && <span className="text-quiet">, who listens and changes nothing</span>}
              </span>
              <button className="btn" onClick={signOut}>
                Sign out
              </button>
            </p>
          )}
          <p className="small mt-3 text-quiet">
            Solo, arm, what is heard of inputs and the monitor are yours alone; so is undo. All else is everybody’s.
          </p>
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}
