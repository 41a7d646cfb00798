import { toast } from 'sonner';
import { edit, useDevices, useDoc, type RoomFacts } from '@/client';
import { inputFaults, inputsFrom, ROOM_LIMITS, type InputGroup } from '@/core/rooms';
import { patchLines, replacedText } from '@/core/session';
import { layoutOf } from '@/core/speakers';
import { Choice } from '@/parts';
import { keep } from '../useRoom';
import { FaultList } from './faultList';
import { InOrder } from './inOrder';
import { WholeField } from './wholeField';

const NONE = '-';

/** Microphones that stand as the loudspeakers do, each on a line of its own; they are patched to a track at once. */
export function Microphones({ facts }: { facts: RoomFacts }) {
  const { room } = facts;
  const devices = useDevices((s) => s.list);
  const { inputs } = room;
  const device = devices.find((d) => d.id === inputs?.device);
  const options = [
    { value: NONE, label: 'none' },
    ...devices.map((d) => ({ value: d.id, label: d.name, note: `${d.lines.length} lines` })),
    ...(inputs && !device ? [{ value: inputs.device, label: `${inputs.device} (not there)` }] : []),
  ];
  const set = (next: InputGroup | null) => void keep(facts, { ...room, inputs: next });
  return (
    <section aria-label="Microphones of the room" className="mt-4 border-t pt-3">
      <div className="flex flex-wrap items-center gap-2">
        <h3 className="title">Microphones</h3>
        <span className="small text-quiet">that stand as the loudspeakers do, on</span>
        <Choice
          label="Device of the microphones"
          look="bare"
          value={inputs?.device ?? NONE}
          options={options}
          onChange={(id) =>
            id === NONE
              ? set(null)
              : inputs
                ? set({ ...inputs, device: id })
                : void keep(facts, inputsFrom(room, id, 1))
          }
        />
      </div>
      {inputs && (
        <>
          <div className="mt-2 flex flex-wrap gap-x-3 gap-y-1.5">
            {room.speakers.map((s, i) => (
              <label key={s.label} className="flex items-center gap-1.5">
                <span className="font-[600]">{s.label}</span>
                <WholeField
                  label={`Line of ${s.label}`}
                  value={inputs.lines[i]!}
                  onChange={(line) => set({ ...inputs, lines: inputs.lines.map((l, c) => (c === i ? line : l)) })}
                />
              </label>
            ))}
          </div>
          <div className="mt-2 flex flex-wrap items-center gap-2">
            <InOrder
              what="Lines"
              layout={room.layout}
              most={ROOM_LIMITS.line.max}
              onNumbers={(first, order) => void keep(facts, inputsFrom(room, inputs.device, first, order))}
            />
            {device && <PatchTo facts={facts} />}
          </div>
          <FaultList
            label="What is wrong with the microphones"
            faults={inputFaults(room, device ? { name: device.name, lines: device.lines.length } : null)}
          />
        </>
      )}
    </section>
  );
}

/** Patches the microphones to a track that is as wide as they are. */
function PatchTo({ facts: { room } }: { facts: RoomFacts }) {
  const doc = useDoc();
  const inputs = room.inputs!;
  const device = useDevices((s) => s.list.find((d) => d.id === inputs.device))!;
  const tracks = doc.tracks.filter((t) => t.layout === room.layout);
  const stops = inputFaults(room, { name: device.name, lines: device.lines.length }).filter((f) => f.grade === 'stop');
  if (tracks.length === 0)
    return <span className="small text-quiet">No track of this session is in {layoutOf(room.layout).name}.</span>;
  const patch = (id: string) => {
    if (stops[0]) return void toast.error(`${stops[0].text} Nothing was patched.`);
    const edits = patchLines(
      doc,
      device,
      inputs.lines.map((l) => (l === null ? null : l - 1)),
      doc.tracks.find((t) => t.id === id)!,
    );
    const told = replacedText(doc, edits);
    if (edit(...edits)) toast.message(told ?? `${doc.tracks.find((t) => t.id === id)!.name} records them now.`);
  };
  return (
    <Choice
      label="Patch the microphones to a track"
      className="ml-auto w-47.5"
      value={NONE}
      options={[
        { value: NONE, label: 'Patch to…', disabled: true },
        ...tracks.map((t) => ({ value: t.id, label: t.name })),
      ]}
      onChange={patch}
    />
  );
}
