'use client';
import { clsx } from 'clsx';
import { MoreHorizontal, Power, X } from 'lucide-react';
import { DropdownMenu } from 'radix-ui';
import { toast } from 'sonner';
import {
  edit,
  position,
  preview,
  rideMove,
  rideRelease,
  setRideMode,
  useRide,
  useStretch,
  type RideMode,
  useDocPart,
  docNow,
} from '@/client';
import { LANE_SHAPES, type LaneShape } from '@/core/lanes';
import {
  clearEdit,
  copyOf,
  isSwitched,
  laneKey,
  laneName,
  laneParam,
  pasteEdit,
  pointEdit,
  scaleEdit,
  shapeFor,
  valueAt,
  type LaneTarget,
} from '@/core/session';
import { Choice, fieldOf, NumberField, useTick } from '@/parts';
import { LANE_ROW } from '../rows';
import { hideLane, useLanes } from '@/parts';

/** Its name, whether it is followed, and the value at the playhead. */
export function LaneFrom({ target }: { target: LaneTarget }) {
  const lane = useDocPart((doc) => doc.lanes[laneKey(target)]);
  const name = useDocPart((doc) => laneName(doc, target));
  const ofTrack = useDocPart((doc) => doc.tracks.some((t) => t.id === target.node));
  return (
    <div
      className="flex items-center gap-1.5 border-b pl-6 pr-2"
      style={{ height: LANE_ROW }}
      data-lane-row={laneKey(target)}
    >
      <div className="min-w-0 flex-1">
        <span className="block truncate" title={name}>
          {ofTrack ? name.split(', ').at(-1) : name}
        </span>
        <LaneNow target={target} />
      </div>
      {lane ? (
        <button
          className="chip"
          role="switch"
          aria-checked={lane.on}
          aria-label={`${name} follows its lane`}
          title={lane.on ? 'Followed; click to hear the value that is set by hand' : 'Not followed'}
          style={lane.on ? { color: 'var(--brass)', borderColor: 'var(--brass)' } : undefined}
          onClick={() => edit({ type: 'setLane', target, on: !lane.on })}
        >
          <Power size={12} />
        </button>
      ) : (
        <button className="chip border-0" aria-label={`Hide the lane of ${name}`} onClick={() => hideLane(target)}>
          <X size={12} />
        </button>
      )}
    </div>
  );
}

/** The value at the playhead; typed or dragged it sets a point there, or rides while sound runs. */
function LaneNow({ target }: { target: LaneTarget }) {
  const shape = useLanes((s) => s.shape);
  useTick(200);
  const param = useDocPart((doc) => laneParam(doc, target));
  const name = useDocPart((doc) => laneName(doc, target));
  const value = useDocPart((doc) => valueAt(doc, target, position()));
  if (!param) return null;
  const set = (v: number) =>
    pointEdit(target, { at: Math.max(0, Math.round(position())), value: v, shape: shapeFor(param, shape) });
  if (isSwitched(param))
    return (
      <Choice
        look="bare"
        className="small -ml-1"
        label={`${name} at the playhead`}
        value={String(value)}
        options={param.choices!.map((c, i) => ({ value: String(i), label: c }))}
        onChange={(v) => rideMove(target, Number(v)) || edit(set(Number(v)))}
      />
    );
  return (
    <NumberField
      label={`${name} at the playhead`}
      value={value}
      {...fieldOf(param)}
      className="-ml-1"
      onPreview={(v) => rideMove(target, v) || preview(set(v))}
      onChange={(v) => {
        // A key that is pressed while sound runs is a ride of its own.
        if (rideRelease(target) || (rideMove(target, v) && rideRelease(target))) return;
        edit(set(v));
      }}
    />
  );
}

const RIDES: readonly { value: RideMode; label: string; note: string }[] = [
  { value: 'off', label: 'no ride', note: 'a change sets a point' },
  { value: 'held', label: 'while held', note: 'moves are written while they last' },
  { value: 'on', label: 'from here on', note: 'written until it stops' },
];

/** How moves are written, and what can be done with its points. */
export function LaneTo({ target }: { target: LaneTarget }) {
  const name = useDocPart((doc) => laneName(doc, target));
  const mode = useRide((s) => s.modes[laneKey(target)] ?? 'off');
  const riding = useRide((s) => s.riding === laneKey(target));
  return (
    <div
      className={clsx('flex items-center justify-between gap-1 border-b px-2.5', riding && 'bg-rec/20')}
      style={{ height: LANE_ROW }}
    >
      <Choice
        look="bare"
        className={clsx('small', mode === 'off' ? 'text-quiet' : 'text-rec')}
        label={`Ride of ${name}`}
        value={mode}
        options={RIDES}
        onChange={(m) => setRideMode(target, m)}
      >
        {RIDES.find((r) => r.value === mode)!.label}
      </Choice>
      <LaneMenu target={target} name={name} />
    </div>
  );
}

const SHAPE_WORDS: Record<LaneShape, string> = { line: 'straight', step: 'held', smooth: 'smooth' };

function LaneMenu({ target, name }: { target: LaneTarget; name: string }) {
  const { shape, copied, withClips } = useLanes();
  const stretch = useStretch((s) => s.stretch);
  const lane = useDocPart((doc) => doc.lanes[laneKey(target)]);
  const param = useDocPart((doc) => laneParam(doc, target));
  const inStretch = (act: (from: number, to: number) => void) => {
    if (stretch) act(stretch.start, stretch.end);
    else
      toast.message('Choose a stretch first: drag along the ruler, or take that of the cue (U).', { id: 'no-stretch' });
  };
  const by = (steps: number) =>
    inStretch((from, to) => edit(scaleEdit(docNow(), target, from, to, steps * (param?.step ?? 1) * 10)));
  const tenSteps = param ? `${Number((param.step * 10).toFixed(3))} ${param.unit}`.trim() : '';
  const item = 'menu-item';
  return (
    <DropdownMenu.Root>
      <DropdownMenu.Trigger className="chip border-0" aria-label={`Points of ${name}`}>
        <MoreHorizontal size={14} />
      </DropdownMenu.Trigger>
      <DropdownMenu.Portal>
        <DropdownMenu.Content className="pop min-w-57.5 p-1" align="end" sideOffset={4}>
          <DropdownMenu.RadioGroup value={shape} onValueChange={(s) => useLanes.setState({ shape: s as LaneShape })}>
            {LANE_SHAPES.map((s) => (
              <DropdownMenu.RadioItem
                key={s}
                value={s}
                className={item}
                disabled={param !== null && isSwitched(param) && s !== 'step'}
              >
                New points go on {SHAPE_WORDS[s]}
                <DropdownMenu.ItemIndicator className="ml-auto pl-2 text-brass">●</DropdownMenu.ItemIndicator>
              </DropdownMenu.RadioItem>
            ))}
          </DropdownMenu.RadioGroup>
          <DropdownMenu.Separator className="my-1 border-t" />
          <DropdownMenu.Item className={item} disabled={!lane} onSelect={() => by(1)}>
            Raise the stretch by {tenSteps}
          </DropdownMenu.Item>
          <DropdownMenu.Item className={item} disabled={!lane} onSelect={() => by(-1)}>
            Lower the stretch by {tenSteps}
          </DropdownMenu.Item>
          <DropdownMenu.Item
            className={item}
            disabled={!lane}
            onSelect={() =>
              inStretch((from, to) =>
                useLanes.setState({ copied: { param: target.param, points: copyOf(docNow(), target, from, to) } }),
              )
            }
          >
            Copy the stretch
          </DropdownMenu.Item>
          <DropdownMenu.Item
            className={item}
            disabled={copied === null}
            onSelect={() => copied && edit(pasteEdit(target, copied.points, Math.max(0, Math.round(position()))))}
          >
            Put it down at the playhead
          </DropdownMenu.Item>
          <DropdownMenu.Item
            className={item}
            disabled={!lane}
            onSelect={() => inStretch((from, to) => edit(clearEdit(target, from, to)))}
          >
            Clear the stretch
          </DropdownMenu.Item>
          <DropdownMenu.Separator className="my-1 border-t" />
          <DropdownMenu.CheckboxItem
            className={item}
            checked={withClips}
            onCheckedChange={(on) => useLanes.setState({ withClips: on })}
          >
            Points go along with clips
            <DropdownMenu.ItemIndicator className="ml-auto pl-2 text-brass">●</DropdownMenu.ItemIndicator>
          </DropdownMenu.CheckboxItem>
          <DropdownMenu.Item className={item} disabled={!lane} onSelect={() => edit({ type: 'removeLane', target })}>
            Remove the lane
          </DropdownMenu.Item>
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  );
}
