// Writes THIRD-PARTY.md: every package that is shipped or loaded at run time, with its licence and the licence's text.
// With --check it only says whether the file is current.
import { existsSync, readdirSync, readFileSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import process from 'node:process';

const root = path.resolve(import.meta.dirname, '..');
const lock = JSON.parse(readFileSync(path.join(root, 'package-lock.json'), 'utf8'));

const packages = new Map();
for (const [at, entry] of Object.entries(lock.packages)) {
  if (!at.startsWith('node_modules/') || entry.dev || entry.devOptional || entry.os || entry.cpu || entry.libc)
    continue;
  const name = at.split('node_modules/').at(-1);
  const key = `${name} ${entry.version}`;
  const dir = path.join(root, at);
  // Parts for other systems are listed by the package that chooses among them.
  if (packages.has(key) || !existsSync(path.join(dir, 'package.json'))) continue;
  const about = JSON.parse(readFileSync(path.join(dir, 'package.json'), 'utf8'));
  const licence =
    typeof about.license === 'string'
      ? about.license
      : (about.license?.type ?? about.licenses?.[0]?.type ?? 'see its text');
  const file = readdirSync(dir).find((f) => /^(licen[cs]e|copying)(\.(md|txt))?$/i.test(f));
  packages.set(key, {
    name,
    version: entry.version,
    licence,
    text: file ? readFileSync(path.join(dir, file), 'utf8').trim() : '',
  });
}

const rows = [...packages.values()].sort((a, b) => a.name.localeCompare(b.name) || a.version.localeCompare(b.version));
const texts = new Map();
for (const row of rows) if (row.text) texts.set(row.text, [...(texts.get(row.text) ?? []), row.name]);

const out = `# Software of others

Wide Room is made with these packages. They are installed beside it, unchanged; none is part of its own code. Packages under
the LGPL (\`codec-parser\`, which \`@wasm-audio-decoders/flac\` uses to read FLAC) are loaded as modules of their own and can be
replaced by another version in \`node_modules\`.

Programs of the system that it calls where they are installed: ffmpeg and ffprobe (LGPL or GPL, as they were built).

| package | version | licence |
|---|---|---|
${rows.map((r) => `| ${r.name} | ${r.version} | ${r.licence} |`).join('\n')}

# Texts

${[...texts].map(([text, names]) => `## ${[...new Set(names)].join(', ')}\n\n~~~\n${text.replaceAll('~~~', '~ ~ ~')}\n~~~`).join('\n\n')}
`;
const file = path.join(root, 'THIRD-PARTY.md');
if (process.argv.includes('--check')) {
  // Texts may differ in what a registry delivers; packages and licences may not.
  const table = (text) =>
    text
      .split('\n')
      .filter((line) => line.startsWith('| '))
      .join('\n');
  const now = existsSync(file) ? table(readFileSync(file, 'utf8')) : '';
  if (now !== table(out)) {
    console.error('THIRD-PARTY.md is not current: node scripts/notices.mjs writes it anew.');
    process.exitCode = 1;
  }
} else writeFileSync(file, out);
