'use client';
import { Download, Printer } from 'lucide-react';
import { useState } from 'react';
import { toast } from 'sonner';
import { ask, ServerRefusal, stored, useDoc, useOffer, useSession } from '@/client';
import { beforePrinting, byGrade, type Check } from '@/core/checks';
import { printRanges, rangesOf } from '@/core/print';
import { formatDb } from '@/core/units';
import { CheckList, Choice, Inspector } from '@/parts';
import { Again } from './again';
import { BackIn } from './backIn';
import { Compare } from './compare';
import { Exchange } from './exchange';
import { ALL_FILES, askedFiles, FilesMenu } from './filesMenu';
import { HowPrinted } from './howPrinted';
import { LoudnessChart } from './loudnessChart';
import { OnTheReport } from './onTheReport';
import { OwnRange } from './ownRange';
import { ReportMenu } from './reportMenu';
import { printKeys } from './printKeys';
import { PrintTable } from './printTable';
import { Line } from './progress';
import { Ranges } from './ranges';
import { RangeChoice } from './rangeChoice';
import { SoundChart } from './soundChart';
import { ProveAgain } from './proveAgain';
import { RemovePrint } from './removePrint';
import { SumProof } from './sumProof';
import { TailChoice } from './tailChoice';
import { usePrints } from './usePrints';

/** The files are compared with their checksums first: what is not as it was printed is told here, not in the archive. */
async function fetchArchive(id: string): Promise<void> {
  try {
    await ask(`/api/prints/${id}/check`, {});
    window.location.assign(`/api/prints/${id}/archive`);
  } catch (error) {
    toast.error((error as Error).message, { duration: 12_000 });
  }
}

export function PrintView() {
  const doc = useDoc();
  const prints = usePrints();
  const session = useSession((s) => s.id);
  const [chosen, setChosen] = useState<string | null>(null);
  const [warned, setWarned] = useState(false);
  const shown = prints.find((p) => p.id === chosen) ?? prints[0];
  const running = prints.some((p) => p.state === 'running' || p.state === 'waiting');
  const [files, setFiles] = useState(ALL_FILES);
  const asked = askedFiles(doc, files);
  const total = asked.count * printRanges(doc).length;
  const proven = shown?.proof ? rangesOf(shown.proof, shown) : [];
  const [chosenRange, setRange] = useState<number | null>(null);
  const range = proven.length > 1 && chosenRange !== null && chosenRange < proven.length ? chosenRange : null;
  const one = proven.length === 1 ? proven[0] : range === null ? undefined : proven[range];
  // What only the server can see: files that are missing or cut short.
  const [sources, setSources] = useState<Check[]>([]);
  const checks = byGrade([...beforePrinting(doc), ...sources]);
  const stops = checks.filter((c) => c.grade === 'stop');

  async function start(knowingly: boolean): Promise<void> {
    if (stops.length && !knowingly) {
      setWarned(true);
      return;
    }
    setWarned(false);
    setChosen(null);
    try {
      await stored();
      setSources([]);
      await ask(`/api/sessions/${session}/prints`, { knowingly, only: asked.only, beside: asked.beside });
    } catch (error) {
      if (error instanceof ServerRefusal && Array.isArray(error.facts.stops)) {
        setSources((error.facts.stops as Check[]).filter((c) => c.id.startsWith('source/')));
        setWarned(true);
      }
      toast.error((error as Error).message);
    }
  }
  useOffer(
    'print',
    printKeys(() => void start(false)),
  );

  return (
    <>
      <div className="flex min-w-0 flex-1 flex-col overflow-y-auto px-5 py-3.5">
        <div className="flex flex-wrap items-center gap-x-3 gap-y-2">
          {prints.length > 0 ? (
            <Choice
              label="Print shown"
              look="bare"
              className="title"
              value={shown!.id}
              onChange={setChosen}
              options={prints.map((p) => ({
                value: p.id,
                label: `Print ${p.version}`,
                note: p.state === 'done' ? '' : p.state,
              }))}
            />
          ) : (
            <h2 className="title">First print</h2>
          )}
          <span className="small flex items-center text-quiet">
            <RangeChoice />
            <TailChoice />
          </span>
          <span className="ml-auto flex gap-2">
            {shown?.state === 'done' && <BackIn print={shown} />}
            {shown?.state === 'done' && (
              <Compare print={shown} others={prints.filter((p) => p.state === 'done' && p.id !== shown.id)} />
            )}
            {shown && shown.state !== 'waiting' && shown.state !== 'running' && (
              <>
                <Again print={shown} />
                <RemovePrint key={shown.id} print={shown} />
              </>
            )}
            {shown?.state === 'done' && <ReportMenu print={shown} />}
            {shown?.state === 'done' && (
              <a
                className="btn"
                href={`/api/prints/${shown.id}/archive`}
                download
                data-testid="archive"
                title="All files with their checksums, the report and the proof"
                onClick={(event) => {
                  event.preventDefault();
                  void fetchArchive(shown.id);
                }}
              >
                <Download size={14} /> Archive
              </a>
            )}
            <span className="flex">
              <button className="btn btn-main rounded-r-none" disabled={total === 0} onClick={() => void start(false)}>
                <Printer size={14} /> Print {total === 1 ? '1 file' : `${total} files`}
              </button>
              <FilesMenu chosen={files} onChange={setFiles} />
            </span>
          </span>
        </div>
        {session && <Line session={session} />}
        {shown && <OwnRange print={shown} />}
        {shown?.message && (
          <p className="mt-2 rounded-md border border-warn px-3 py-2" role="status">
            {shown.message}
          </p>
        )}
        {proven.length > 1 && <Ranges proven={proven} shown={range} onShow={setRange} />}
        <PrintTable print={shown} shown={range} />
        {one && shown?.proof ? (
          <div className="mt-3 grid grid-cols-[minmax(0,1fr)_300px] gap-6">
            <div>
              <LoudnessChart range={one} />
              {one.sound && <SoundChart sound={one.sound} />}
            </div>
            <SumProof range={one} milliseconds={shown.milliseconds} />
          </div>
        ) : proven.length > 0 ? null : (
          !running && (
            <p className="small mt-4 text-quiet">
              All stems and the reference are printed in one pass, then each file is read back and measured. Work goes
              on meanwhile.
            </p>
          )
        )}
      </div>
      <Inspector label="Brief and print check">
        <h2 className="title mb-2 pr-6">What the brief asks</h2>
        <dl className="[&_dd]:figure [&_div]:flex [&_div]:h-7.5 [&_div]:items-center [&_div]:justify-between [&_div]:border-b [&_dt]:text-quiet">
          <div>
            <dt>File</dt>
            <dd>{doc.format.fileKind}</dd>
          </div>
          <div>
            <dt>Rate, word</dt>
            <dd>
              {doc.format.sampleRate / 1000} kHz, {doc.format.wordLength} bit
            </dd>
          </div>
          <div>
            <dt>Channels</dt>
            <dd>{doc.format.perChannel ? 'one file per channel' : 'interleaved'}</dd>
          </div>
          <div>
            <dt>Loudness</dt>
            <dd>
              {doc.limits.target === null
                ? 'none asked'
                : `${formatDb(doc.limits.target)} ±${doc.limits.tolerance} LUFS`}
            </dd>
          </div>
          <div>
            <dt>True peak</dt>
            <dd>≤ {formatDb(doc.limits.truePeak)} dBTP</dd>
          </div>
        </dl>
        <HowPrinted />
        <OnTheReport />
        <h2 className="title mb-2 mt-5">Print check</h2>
        <CheckList checks={checks} empty="Nothing stands in the way of a print." />
        <Exchange />
        <ProveAgain />
        {warned && stops.length > 0 && (
          <button className="btn mt-3" onClick={() => void start(true)}>
            Print anyway
          </button>
        )}
      </Inspector>
    </>
  );
}
