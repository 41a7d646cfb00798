'use client';
import { edit, useDoc } from '@/client';
import { frameRateChange, type WordLength } from '@/core/session';
import { frameRate, type FrameRateId } from '@/core/units';
import { Dialog } from '@/parts';

/** What another frame rate means for a session with material, and the ways to have it. */
export function FrameRateDialog({ to, onClose }: { to: FrameRateId; onClose: () => void }) {
  const doc = useDoc();
  const { label } = frameRate(to);
  const { told, keepTimes, keepTimecodes } = frameRateChange(doc, to);
  const marked = doc.cues.length + doc.markers.length > 0;
  return (
    <Dialog open onClose={onClose} title={`Count ${label}`}>
      <ul className="flex list-disc flex-col gap-1 pl-5">
        {told.map((line) => (
          <li key={line}>{line}</li>
        ))}
      </ul>
      {marked && (
        <p className="small mt-2 text-quiet">
          {keepTimecodes
            ? 'Was the script written at this rate? Then cues, markers and range can keep their timecodes, and move.'
            : `Some timecodes of the script do not exist at ${label}: cues and markers can only stay at their times.`}
        </p>
      )}
      <div className="mt-4 flex justify-end gap-2">
        <button className="btn" onClick={onClose}>
          Stay at {frameRate(doc.format.frameRate).label}
        </button>
        {marked && keepTimecodes && (
          <button className="btn" onClick={() => edit(...keepTimecodes) && onClose()}>
            Keep timecodes, move cues
          </button>
        )}
        <button autoFocus className="btn btn-main" onClick={() => edit(...keepTimes) && onClose()}>
          Count {label}
        </button>
      </div>
    </Dialog>
  );
}

const bits = (w: WordLength): string => (w === 32 ? '32 bit float' : `${w} bit`);

/** What another word length means for a session with material. */
export function WordLengthDialog({ to, onClose }: { to: WordLength; onClose: () => void }) {
  const doc = useDoc('format', 'tracks', 'media', 'deliverables');
  const { wordLength } = doc.format;
  const takes = doc.tracks.reduce((n, t) => n + t.takes.filter((k) => !k.imported).length, 0);
  const files = Object.keys(doc.media).length;
  const follow = doc.deliverables.filter((d) => d.wordLength === undefined).map((d) => d.token);
  return (
    <Dialog open onClose={onClose} title={`From ${bits(wordLength)} to ${bits(to)}`}>
      <ul className="flex list-disc flex-col gap-1 pl-5">
        <li>
          {files} {files === 1 ? 'file' : 'files'}
          {takes > 0 ? `, ${takes} of them takes,` : ''} stay as they are, at {bits(wordLength)}: nothing is rounded or
          converted, and nothing sounds otherwise.
        </li>
        <li>What is recorded from now on is written in {bits(to)}.</li>
        {follow.length > 0 && (
          <li>
            Printed in {bits(to)}: {follow.join(', ')}
            {to === 16 ? ', with triangular dither' : ''}.
          </li>
        )}
        {to < wordLength && <li>What is finer than {to} bit is rounded away in new files.</li>}
      </ul>
      <div className="mt-4 flex justify-end gap-2">
        <button className="btn" onClick={onClose}>
          Stay at {bits(wordLength)}
        </button>
        <button
          autoFocus
          className="btn btn-main"
          onClick={() => edit({ type: 'setFormat', wordLength: to }) && onClose()}
        >
          Record at {bits(to)}
        </button>
      </div>
    </Dialog>
  );
}
