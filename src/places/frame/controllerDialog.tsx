'use client';
import { useEffect } from 'react';
import { create } from 'zustand';
import { CONTROLS, learn, offer, openControllers, takeMidi, useController } from '@/client';
import { writeMidi, type ControlEvent } from '@/core/control';
import { Dialog } from '@/parts';

const useOpen = create<{ open: boolean }>(() => ({ open: false }));

const nameOf = (id: string | undefined): string => {
  if (!id) return 'nothing';
  const [kind, channel, number] = id.split('/');
  return `${kind} ${number}, channel ${channel}`;
};

/** Which key of a controller does what; a simulated one stands below, and sends the same messages. */
export function ControllerDialog() {
  const { open } = useOpen();
  const { map, learning, inputs, trouble } = useController();
  useEffect(
    () =>
      offer('controller', [
        {
          id: 'controller',
          label: 'Set up a controller',
          keys: '',
          group: 'Session',
          run: () => useOpen.setState({ open: true }),
        },
      ]),
    [],
  );
  const close = () => {
    learn(null);
    useOpen.setState({ open: false });
  };
  return (
    <Dialog
      open={open}
      onClose={close}
      title="Controller"
      note={
        inputs.length
          ? `Listening to ${inputs.join(', ')}.`
          : (trouble ?? 'Choose what to teach, then press the key or move the fader.')
      }
    >
      <ul>
        {CONTROLS.map((c) => (
          <li key={c.id} className="flex items-center gap-2 border-b py-1">
            <span>{c.label}</span>
            <span className="figure ml-auto text-quiet">
              {learning === c.id ? `move a ${c.kind}…` : nameOf(map[c.id])}
            </span>
            <button
              className="chip"
              aria-label={`Teach ${c.label}`}
              aria-pressed={learning === c.id}
              onClick={() => learn(learning === c.id ? null : c.id)}
            >
              {learning === c.id ? 'Leave it' : 'Teach'}
            </button>
          </li>
        ))}
      </ul>
      <div className="mt-3 flex items-center justify-between">
        <button className="btn" onClick={() => void openControllers()}>
          Use this computer&apos;s controllers…
        </button>
      </div>
      <StandinController />
    </Dialog>
  );
}

const KEYS = 8;
const FIRST_KEY = 36;
const FADER = 7;

/** A small controller: eight keys and a fader. */
function StandinController() {
  const send = (event: Omit<ControlEvent, 'channel'>) => takeMidi(writeMidi({ ...event, channel: 1 }));
  return (
    <section className="mt-4 rounded-md border p-3" aria-label="Controller (stand-in)">
      <h3 className="small mb-2 text-quiet">Controller (stand-in)</h3>
      <div className="flex items-center gap-1.5">
        {Array.from({ length: KEYS }, (_, i) => (
          <button
            key={i}
            aria-label={`Key ${i + 1}`}
            className="figure size-9 rounded-sm border bg-raised active:bg-panel"
            onPointerDown={() => send({ kind: 'key', number: FIRST_KEY + i, value: 1 })}
            onPointerUp={() => send({ kind: 'key', number: FIRST_KEY + i, value: 0 })}
            onKeyDown={(e) => e.key === 'Enter' && send({ kind: 'key', number: FIRST_KEY + i, value: 1 })}
          >
            {i + 1}
          </button>
        ))}
        <input
          type="range"
          aria-label="Fader"
          min={0}
          max={127}
          defaultValue={95}
          className="ml-2 w-22.5 accent-brass"
          onChange={(e) => send({ kind: 'fader', number: FADER, value: Number(e.target.value) / 127 })}
        />
      </div>
    </section>
  );
}
