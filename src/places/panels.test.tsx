// @vitest-environment jsdom
// Every panel as a screen reader and a keyboard meet it, with the demonstration's session and with names that are as long
// as names may be. What only a browser knows (colours, sizes, what covers what) is looked at in tests/e2e.
import axe from 'axe-core';
import type { ReactElement } from 'react';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import { demoDoc, longNames } from '../../tests/support/demoDoc';
import { showPanel } from '../../tests/support/panel';
import { applied } from '../../tests/support/session';
import { select } from '@/client';
import { lineId, type SessionDoc } from '@/core/session';
import { ChainView } from '@/parts';
import { DefaultDestinations } from './brief/defaultDestinations';
import { Deliverables } from './brief/deliverables';
import { FrameRateDialog, WordLengthDialog } from './brief/formatDialogs';
import { LayoutDialog } from './brief/layoutDialog';
import { MixOfStems } from './brief/mixOfStems';
import { RateDialog } from './brief/rateDialog';
import { SessionDesk } from './brief/sessionDesk';
import { FormatSentence } from './brief/formatSentence';
import { TrackBuilder } from './brief/trackBuilder';
import { TrackRows } from './brief/trackRows';
import { Versions } from './brief/versions';
import { WorkSettings } from './brief/workSettings';
import { ClipPanel } from './floor/clipPanel';
import { useFloor } from './floor/floorState';
import { MediaList } from './floor/media/mediaList';
import { ImportScript } from './floor/script/importScript';
import { Script } from './floor/script/script';
import { TakeNote } from './floor/takeNote';
import { Takes } from './floor/takes';
import { FlowInspector } from './flow/flowInspector';
import { setFlow } from './flow/flowState';
import { NewBus } from './flow/newBus';
import { FlowTable } from './flow/table/flowTable';
import { RollBar } from './frame/rollBar';
import { TopBar } from './frame/topBar';
import { DeviceBar } from './lineup/deviceBar';
import { Levels } from './lineup/levels';
import { LineInspector } from './lineup/lineInspector';
import { LineSheetTable } from './lineup/lineSheetTable';
import { PatchInput } from './lineup/patchInput';
import { RoomTone } from './lineup/roomtone/roomTone';
import { HowPrinted } from './print/howPrinted';
import { OnTheReport } from './print/onTheReport';
import { RangeChoice } from './print/rangeChoice';
import { RawTracks } from './print/rawTracks';
import { TailChoice } from './print/tailChoice';
import { ListenLens } from './room/listen/listenLens';
import { PlacementFields } from './room/place/placementFields';
import { PlaceLens } from './room/place/placeLens';
import { PortsLens } from './room/ports/portsLens';

vi.mock('next/navigation', () => ({
  usePathname: () => '/s/lamp/brief',
  useRouter: () => ({ push: () => {}, prefetch: () => {} }),
}));

const LINE = lineId('standin-eight', 1);

/** The demonstration's session with what its panels show besides: a line, a return with a send, a lane, a mix of stems. */
const start: SessionDoc = applied(
  demoDoc(),
  { type: 'addLine', device: 'standin-eight', channel: 1, name: 'Booth' },
  { type: 'patch', track: 'pilot', channel: 0, line: LINE },
  { type: 'addBus', id: 'hall', name: 'Hall', kind: 'return', layout: 'stereo', sources: ['pilot'] },
  {
    type: 'writeLane',
    target: { node: 'pilot', param: 'level' },
    from: 0,
    to: 48_000,
    points: [0, 48_000].map((at) => ({ at, value: -3, shape: 'line' as const })),
  },
);
const track = (doc: SessionDoc) => doc.tracks.find((t) => t.id === 'pilot')!;
const chosen = (kind: 'track' | 'bus' | 'line', id: string, panel: ReactElement) => () => {
  select({ kind, id });
  return panel;
};

const close = () => {};

const PANELS: Record<string, (doc: SessionDoc) => ReactElement> = {
  'Brief, format': () => <FormatSentence />,
  'Brief, destinations': () => <DefaultDestinations />,
  'Brief, tracks': () => <TrackRows />,
  'Brief, builder': () => <TrackBuilder />,
  'Brief, settings': () => <WorkSettings />,
  'Brief, versions': () => <Versions />,
  'Brief, deliverables': () => <Deliverables />,
  'Line-up, devices': () => <DeviceBar />,
  'Line-up, patch by typing': () => <PatchInput />,
  'Line-up, line sheet': () => <LineSheetTable />,
  'Line-up, loudest passage': () => <Levels />,
  'Line-up, room tone': () => <RoomTone />,
  'Line-up, a line': () => <LineInspector line={LINE} />,
  'Floor, script': () => <Script />,
  'Floor, takes': () => <Takes />,
  'Floor, files': () => <MediaList />,
  'Floor, a clip': (doc) => {
    select({ kind: 'clip', id: track(doc).clips[0]!.id } as never);
    return <ClipPanel />;
  },
  'Floor, a note on a take': (doc) => {
    const taken = doc.tracks.find((t) => t.takes.length > 0)!;
    useFloor.setState({ noting: { track: taken.id, take: taken.takes[0]!.id } });
    return <TakeNote />;
  },
  'Flow, a track': chosen('track', 'pilot', <FlowInspector />),
  'Flow, a stem': chosen('bus', 'dia', <FlowInspector />),
  'Flow, a return': chosen('bus', 'hall', <FlowInspector />),
  'Flow, the reference': chosen('bus', 'ref', <FlowInspector />),
  'Flow, table': () => <FlowTable />,
  'Flow, a new bus': () => {
    setFlow({ wanted: { tracks: ['pilot'], buses: [], kind: 'bus' } });
    return <NewBus />;
  },
  'Flow, a chain': () => <ChainView owner={{ kind: 'line', id: LINE }} />,
  'Room, place': () => <PlaceLens bar={null} />,
  'Room, a place in figures': (doc) => <PlacementFields track={track(doc)} />,
  'Room, ports': () => <PortsLens bar={null} />,
  'Room, listen': () => <ListenLens bar={null} />,
  'Print, range': () => <RangeChoice />,
  'Print, how': () => <HowPrinted />,
  'Print, tail': () => <TailChoice />,
  'Print, on the report': () => <OnTheReport />,
  'Frame, head': () => <TopBar session="lamp" />,
  'Frame, foot': () => <RollBar />,
  'A dialog, another rate': () => <RateDialog to={96_000} onClose={close} />,
  'A dialog, another word length': () => <WordLengthDialog to={32} onClose={close} />,
  'A dialog, another frame rate': () => <FrameRateDialog to="24" onClose={close} />,
  'A dialog, another layout': () => <LayoutDialog to="7.1.4" onClose={close} />,
  'A dialog, a mix of stems': () => <MixOfStems onClose={close} />,
  'A dialog, sessions': () => <SessionDesk onClose={close} />,
  'A dialog, a script': () => <ImportScript open onClose={close} />,
  'A dialog, raw tracks': () => <RawTracks onClose={close} />,
};

const RULES: axe.RunOptions = {
  runOnly: { type: 'tag', values: ['wcag2a', 'wcag2aa', 'wcag21a', 'wcag21aa'] },
  rules: { 'color-contrast': { enabled: false } },
};

const CONTROLS = 'button, a[href], input, textarea, select, [role=spinbutton], [role=slider], [role=combobox]';

beforeEach(() => {
  select(null);
  setFlow({ wanted: null });
  useFloor.setState({ noting: null });
});

describe.each(Object.entries(PANELS))('%s', (_, panel) => {
  it.each([
    ['the demonstration', start],
    ['long names', longNames(start)],
  ])('with %s is named in full and reached by keys', async (_, doc) => {
    showPanel(panel(doc), doc);
    expect(document.body.querySelectorAll(CONTROLS).length).toBeGreaterThan(0);
    const { violations } = await axe.run(document.body, RULES);
    expect(violations.flatMap((v) => v.nodes.map((n) => `${v.id}: ${n.html.slice(0, 160)}`))).toEqual([]);
    // An order of one's own would lead elsewhere than one reads.
    for (const control of document.body.querySelectorAll<HTMLElement>(CONTROLS))
      expect(control.tabIndex, control.outerHTML.slice(0, 160)).toBeLessThanOrEqual(0);
  });
});
