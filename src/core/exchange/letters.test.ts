// Bytes by hand after the Encoding Standard (WHATWG) and RFC 3629; iconv (glibc) writes what is read.
import { execFileSync } from 'node:child_process';
import { describe, expect, it } from 'vitest';
import { ExchangeFault, lettersOf, readLetters } from '.';

const TEXT = 'in,text\n10:00:01:00,Größe: naïve – “café”, £5\n';
const iconv = (text: string, to: string): Uint8Array =>
  new Uint8Array(execFileSync('iconv', ['-f', 'UTF-8', '-t', to], { input: text }));

describe('letters of a text', () => {
  it.each([
    ['UTF-8', 'utf-8'],
    ['UTF-16', 'utf-16le'],
    ['UTF-16LE', 'utf-16le'],
    ['UTF-16BE', 'utf-16be'],
    ['CP1252', 'windows-1252'],
  ] as const)('%s is told by its bytes', (to, letters) => {
    const bytes = iconv(TEXT, to);
    expect(lettersOf(bytes)).toBe(letters);
    expect(readLetters(bytes)).toBe(TEXT);
  });
  it.each([
    ['MACINTOSH', 'macintosh', 'Größe – “café”'],
    ['CP1250', 'windows-1250', 'Źdźbło żółte'],
    ['CP1251', 'windows-1251', 'Маяк на мысу'],
  ] as const)('%s is read when it is said', (to, letters, text) => {
    expect(readLetters(iconv(text, to), letters)).toBe(text);
  });
  it.each<[string, string | number[], RegExp]>([
    ['a document', 'PK\x03\x04\x14\x00', /word processor.*plain text/],
    ['a PDF', '%PDF-1.7\n', /PDF/],
    ['formatting', '{\\rtf1\\ansi', /RTF/],
    ['a web page', '<!DOCTYPE html><p>', /web page/],
    ['a sound', 'RIFF\x00\x00\x00\x00WAVE', /sound/],
    ['noise', Array.from({ length: 300 }, (_, i) => (i * 7) % 9), /no text/],
  ])('%s is refused with what it is', (_, what, message) => {
    const bytes = Uint8Array.from(typeof what === 'string' ? [...what].map((c) => c.charCodeAt(0)) : what);
    expect(() => readLetters(bytes)).toThrow(ExchangeFault);
    expect(() => readLetters(bytes)).toThrow(message);
  });
});
