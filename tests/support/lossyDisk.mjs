// A disk that keeps only what was synced. Loaded before the server (node --import): what is synced goes to a second
// folder, page by page; what was written and not synced is what a power cut may lose.
import fs from 'node:fs';
import { syncBuiltinESMExports } from 'node:module';
import path from 'node:path';

const PAGE = 4096;
const [live, durable] = [process.env.LOSSY_LIVE, process.env.LOSSY_DURABLE];
const real = { ...fs };
const inside = (file) => typeof file === 'string' && path.resolve(file).startsWith(live);
const twin = (file) => durable + path.resolve(file).slice(live.length);
/** Pages that were written since their file was last synced, by file. */
const dirty = new Map();
const nameOf = new Map();

function keep(fd) {
  const file = nameOf.get(fd);
  if (!file || !real.existsSync(file)) return;
  const to = twin(file);
  real.mkdirSync(path.dirname(to), { recursive: true });
  if (real.statSync(file).isDirectory()) return;
  const { size } = real.fstatSync(fd);
  const whole = !real.existsSync(to);
  const out = real.openSync(to, whole ? 'w' : 'r+');
  const piece = Buffer.alloc(PAGE);
  const pages = whole ? Array.from({ length: Math.ceil(size / PAGE) }, (_, i) => i) : [...(dirty.get(file) ?? [])];
  const from = real.openSync(file, 'r');
  for (const p of pages) {
    const n = real.readSync(from, piece, 0, PAGE, p * PAGE);
    real.writeSync(out, piece, 0, n, p * PAGE);
  }
  real.ftruncateSync(out, size);
  real.closeSync(from);
  real.closeSync(out);
  dirty.delete(file);
}

const patch = {
  openSync(file, ...rest) {
    const fd = real.openSync(file, ...rest);
    if (inside(file)) nameOf.set(fd, path.resolve(file));
    return fd;
  },
  closeSync(fd) {
    nameOf.delete(fd);
    return real.closeSync(fd);
  },
  writeSync(fd, data, offset, length, position) {
    const n = real.writeSync(fd, data, offset, length, position);
    const file = nameOf.get(fd);
    if (file && typeof position === 'number') {
      const pages = dirty.get(file) ?? new Set();
      dirty.set(file, pages);
      for (let p = Math.floor(position / PAGE); p * PAGE < position + n; p++) pages.add(p);
    }
    return n;
  },
  fsyncSync(fd) {
    real.fsyncSync(fd);
    keep(fd);
  },
  fdatasyncSync(fd) {
    real.fdatasyncSync(fd);
    keep(fd);
  },
  // Names are as durable as the calls that change them: pages are what is lost here.
  renameSync(from, to) {
    real.renameSync(from, to);
    if (!inside(from)) return;
    if (real.existsSync(twin(from))) real.renameSync(twin(from), twin(to));
    for (const [fd, name] of nameOf) if (name === path.resolve(from)) nameOf.set(fd, path.resolve(to));
    const pages = dirty.get(path.resolve(from));
    dirty.delete(path.resolve(from));
    if (pages) dirty.set(path.resolve(to), pages);
  },
  unlinkSync(file) {
    real.unlinkSync(file);
    if (inside(file)) real.rmSync(twin(file), { force: true });
  },
  mkdirSync(dir, ...rest) {
    const made = real.mkdirSync(dir, ...rest);
    if (inside(dir)) real.mkdirSync(twin(dir), { recursive: true });
    return made;
  },
};
Object.assign(fs, patch);
syncBuiltinESMExports();
