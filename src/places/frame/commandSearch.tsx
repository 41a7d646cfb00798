'use client';
import { Command, defaultFilter } from 'cmdk';
import { edit, keyText, locate, select, useCommands, useDoc, docNow } from '@/client';
import { wantedBy, type Wanted } from '@/core/session';
import { sampleOf, timecodeOf } from '@/parts';
import { useEffect, useState } from 'react';
import { toast } from 'sonner';
import { act, ACTIONS, controlsShown, press, searchClosed } from './actions';
import { goTo } from './placeLink';
import { PLACES } from './places';

const figure = (v: number, { digits, unit }: Wanted['target']['param']): string =>
  `${v.toFixed(digits).replace('-', '−')} ${unit}`.trim();

/** What is only shown comes after what can be done: a line of the script is a button too. */
const HERE = 'here ';
/** Letters that merely occur somewhere, in their order, are no find. */
const FOUND = 0.02;

function rank(value: string, search: string): number {
  const here = value.startsWith(HERE);
  const score = defaultFilter(here ? value.slice(HERE.length) : value, search, []);
  return score < FOUND ? 0 : here ? score * 0.1 : score;
}

/** Finds every action, track and bus by a few letters; a typed timecode locates, a name with a figure sets a value. */
export function CommandSearch({ session }: { session: string }) {
  const { searchOpen, sets } = useCommands();
  const doc = useDoc('format', 'tracks', 'buses');
  const [text, setText] = useState('');
  const close = () => {
    useCommands.setState({ searchOpen: false });
    setText('');
  };
  const run = (action: () => void) => () => {
    close();
    action();
  };
  const later = (action: () => unknown) => run(() => void searchClosed().then(action));
  const go = (place: string, kind: 'track' | 'bus', id: string) =>
    run(() => {
      select({ kind, id });
      goTo(session, place);
    });
  let typed: number | null = null;
  try {
    if (/^\d[\d:;.]{2,}$/.test(text)) typed = sampleOf(doc, text);
  } catch {
    typed = null;
  }
  const wanted = searchOpen ? wantedBy(docNow(), text) : [];
  // Looked through once a few letters tell what is meant: there are hundreds of them.
  const [controls, setControls] = useState<ReturnType<typeof controlsShown>>([]);
  const looked = searchOpen && text.length >= 2;
  useEffect(() => {
    if (looked) setControls(controlsShown());
  }, [looked]);
  const item = 'menu-item';
  return (
    <Command.Dialog
      open={searchOpen}
      onOpenChange={(o) => !o && close()}
      label="Search for an action"
      filter={rank}
      overlayClassName="fixed inset-0 z-50 bg-black/55"
      contentClassName="pop fixed left-1/2 top-[14vh] z-50 w-130 -translate-x-1/2 overflow-hidden"
    >
      <Command.Input
        value={text}
        onValueChange={setText}
        placeholder="Action, track, bus or timecode"
        className="w-full border-b bg-transparent px-4 py-3 text-lead outline-none"
      />
      <Command.List className="max-h-[44vh] overflow-auto p-1.5 [&_[cmdk-group-heading]]:px-2.5 [&_[cmdk-group-heading]]:pb-1 [&_[cmdk-group-heading]]:pt-2 [&_[cmdk-group-heading]]:text-small [&_[cmdk-group-heading]]:text-quiet">
        <Command.Empty className="p-4 text-quiet">
          Nothing of that name. Try a verb (play, arm, print) or a value: narrator level -3.
        </Command.Empty>
        {typed !== null && (
          <Command.Item value={text} className={item} onSelect={run(() => locate(typed))}>
            Locate <span className="figure">{timecodeOf(doc, typed)}</span>
          </Command.Item>
        )}
        {wanted.map(({ target, value, fault }) => (
          <Command.Item
            key={target.name}
            value={`${text} ${target.name}`}
            className={item}
            disabled={fault !== null}
            onSelect={run(() => void edit(target.set(value)))}
          >
            {target.name}
            <span className="ml-auto text-quiet">
              {fault ?? (
                <>
                  <span className="figure">{figure(target.value, target.param)}</span> →{' '}
                  <span className="figure text-text">{figure(value, target.param)}</span>
                </>
              )}
            </span>
          </Command.Item>
        ))}
        {Object.values(sets)
          .flat()
          .map((c) => (
            <Command.Item key={c.id} value={`${c.label} ${c.group}`} className={item} onSelect={run(c.run)}>
              {c.label}
              {c.keys && <kbd className="figure ml-auto text-quiet">{keyText(c.keys)}</kbd>}
            </Command.Item>
          ))}
        {ACTIONS.map((a) => (
          <Command.Item
            key={a.id}
            value={`${a.label} ${a.id}`}
            className={item}
            onSelect={later(() =>
              act(a, (place) => goTo(session, place)).then((why) => {
                if (why) toast.message(why);
              }),
            )}
          >
            {a.label}
            <span className="small ml-auto text-quiet">{PLACES.find((p) => p.id === a.place)!.name}</span>
          </Command.Item>
        ))}
        <Command.Group heading="Tracks">
          {doc.tracks.map((t) => (
            <Command.Item
              key={t.id}
              value={`track ${t.name} ${t.id}`}
              className={item}
              onSelect={go('floor', 'track', t.id)}
            >
              {t.name}
            </Command.Item>
          ))}
        </Command.Group>
        <Command.Group heading="Buses">
          {doc.buses.map((b) => (
            <Command.Item
              key={b.id}
              value={`bus ${b.name} ${b.id}`}
              className={item}
              onSelect={go('flow', 'bus', b.id)}
            >
              {b.name}
            </Command.Item>
          ))}
        </Command.Group>
        {looked && (
          <Command.Group heading="In what is shown">
            {controls.map(({ name, el }) => (
              <Command.Item key={name} value={`${HERE}${name}`} className={item} onSelect={later(() => press(el))}>
                <span className="truncate">{name}</span>
              </Command.Item>
            ))}
          </Command.Group>
        )}
      </Command.List>
    </Command.Dialog>
  );
}
