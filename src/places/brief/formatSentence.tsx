'use client';
import { edit, useDoc, useLayouts } from '@/client';
import { FILE_KINDS, SAMPLE_RATES, WORD_LENGTHS, type FileKind, type WordLength } from '@/core/session';
import { layoutOf, type LayoutId } from '@/core/speakers';
import { FRAME_RATES, frameRate, type FrameRateId } from '@/core/units';
import { Choice } from '@/parts';
import { useRef, useState } from 'react';
import { FrameRateDialog, WordLengthDialog } from './formatDialogs';
import { LayoutDialog } from './layoutDialog';
import { RateDialog } from './rateDialog';
import { DefaultDestinations } from './defaultDestinations';

/** The agreed format as a sentence whose words are controls. */
export function FormatSentence() {
  const doc = useDoc('format', 'media', 'cues', 'tracks');
  const { format } = doc;
  const files = Object.keys(doc.media).length;
  const layouts = useLayouts();
  const [layoutTo, setLayoutTo] = useState<LayoutId | null>(null);
  const [asked, setAsked] = useState<number | null>(null);
  const [bitsTo, setBitsTo] = useState<WordLength | null>(null);
  const [framesTo, setFramesTo] = useState<FrameRateId | null>(null);
  const layout = layoutOf(format.layout);
  return (
    <p className="max-w-287.5 text-head leading-8.5">
      Record at{' '}
      <Choice
        look="word"
        label="Sample rate"
        action="brief.rate"
        value={String(format.sampleRate)}
        options={SAMPLE_RATES.map((r) => ({ value: String(r), label: `${r / 1000} kHz` }))}
        onChange={(v) => (files > 0 ? setAsked(Number(v)) : edit({ type: 'setFormat', sampleRate: Number(v) }))}
      />
      ,{' '}
      <Choice
        look="word"
        label="Word length"
        action="brief.bits"
        value={String(format.wordLength)}
        options={WORD_LENGTHS.map((w) => ({ value: String(w), label: w === 32 ? '32 bit float' : `${w} bit` }))}
        onChange={(v) => {
          const to = Number(v) as WordLength;
          if (files > 0 && to !== format.wordLength) setBitsTo(to);
          else edit({ type: 'setFormat', wordLength: to });
        }}
      />
      , as{' '}
      <Choice
        look="word"
        label="Kind of file"
        action="brief.kind"
        value={format.fileKind}
        options={FILE_KINDS.map((k) => ({ value: k, label: k }))}
        onChange={(v: FileKind) => edit({ type: 'setFormat', fileKind: v })}
      />
      ,{' '}
      <Choice
        look="word"
        label="Channels of a file"
        action="brief.channels"
        value={format.perChannel ? 'each' : 'all'}
        options={[
          { value: 'all', label: 'channels interleaved' },
          { value: 'each', label: 'one file per channel' },
        ]}
        onChange={(v) => edit({ type: 'setFormat', perChannel: v === 'each' })}
      />
      . Picture runs at{' '}
      <Choice
        look="word"
        label="Frame rate"
        action="brief.frames"
        value={format.frameRate}
        options={FRAME_RATES.map((r) => ({ value: r.id, label: r.label }))}
        onChange={(v: FrameRateId) =>
          (files > 0 || doc.cues.length > 0) && v !== format.frameRate
            ? setFramesTo(v)
            : edit({ type: 'setFormat', frameRate: v })
        }
      >
        {frameRate(format.frameRate).label}
      </Choice>{' '}
      from <StartWord /> . Mix in{' '}
      <Choice
        look="word"
        label="Layout of the mix"
        action="brief.layout"
        value={format.layout}
        options={layouts.map((l) => ({ value: l.id, label: l.name }))}
        onChange={(v: LayoutId) =>
          doc.tracks.length > 0 && v !== format.layout ? setLayoutTo(v) : edit({ type: 'setFormat', layout: v })
        }
      />
      , in the order <b className="font-[600]">{layout.speakers.map((s) => s.label).join(' ')}</b>. New tracks go{' '}
      <DefaultDestinations />.{layoutTo && <LayoutDialog to={layoutTo} onClose={() => setLayoutTo(null)} />}
      {bitsTo !== null && <WordLengthDialog to={bitsTo} onClose={() => setBitsTo(null)} />}
      {framesTo !== null && <FrameRateDialog to={framesTo} onClose={() => setFramesTo(null)} />}
      {asked !== null && asked !== format.sampleRate && <RateDialog to={asked} onClose={() => setAsked(null)} />}
    </p>
  );
}

function StartWord() {
  const { startTimecode } = useDoc('format').format;
  const [typing, setTyping] = useState<string | null>(null);
  const dropped = useRef(false);
  return (
    <input
      aria-label="Start timecode"
      data-action="brief.start"
      value={typing ?? startTimecode}
      spellCheck={false}
      className="figure w-[11.2ch] border-b-[1.5px] border-brass bg-transparent text-word font-[560] outline-none focus-visible:outline-2"
      onFocus={(e) => e.target.select()}
      onChange={(e) => setTyping(e.target.value)}
      onBlur={() => {
        if (!dropped.current && typing !== null && typing !== startTimecode)
          edit({ type: 'setFormat', startTimecode: typing });
        dropped.current = false;
        setTyping(null);
      }}
      onKeyDown={(e) => {
        e.stopPropagation();
        if (e.key === 'Escape') dropped.current = true;
        if (e.key === 'Enter' || e.key === 'Escape') e.currentTarget.blur();
      }}
    />
  );
}
