// Completes package-lock.json with entries for other platforms' optional binaries that the registry did
// not tell of, so that `npm ci` accepts it everywhere. Run after every change of dependencies.
import { readFileSync, writeFileSync } from 'node:fs';

const file = new URL('../package-lock.json', import.meta.url);
const lock = JSON.parse(readFileSync(file, 'utf8'));
const CPUS = {
  x64: 'x64',
  arm64: 'arm64',
  ia32: 'ia32',
  arm: 'arm',
  s390x: 's390x',
  ppc64: 'ppc64',
  riscv64: 'riscv64',
  loong64: 'loong64',
  mips64el: 'mips64el',
  wasm32: 'wasm32',
  universal: undefined,
};
const SYSTEMS = ['darwin', 'linux', 'win32', 'freebsd', 'android', 'netbsd', 'openbsd', 'sunos', 'aix', 'openharmony'];
let added = 0;

for (const [where, entry] of Object.entries({ ...lock.packages })) {
  for (const [name, version] of Object.entries(entry.optionalDependencies ?? {})) {
    const nested = `${where}/node_modules/${name}`;
    const top = `node_modules/${name}`;
    const there = lock.packages[nested] ?? lock.packages[top];
    if (there && there.version) continue;
    const words = name.split(/[-/@]/);
    const os = SYSTEMS.find((s) => words.includes(s));
    const cpu = words.map((w) => (w.startsWith('arm') && w !== 'arm64' ? 'arm' : w)).find((w) => w in CPUS);
    if (!os && !cpu) continue;
    lock.packages[top] = {
      version: version.replace(/^[^\d]*/, ''),
      ...(CPUS[cpu] ? { cpu: [CPUS[cpu]] } : {}),
      ...(entry.dev ? { dev: true } : {}),
      optional: true,
      ...(os ? { os: [os] } : {}),
    };
    added++;
  }
}
const sorted = Object.keys(lock.packages).sort();
lock.packages = Object.fromEntries(sorted.map((k) => [k, lock.packages[k]]));
writeFileSync(file, `${JSON.stringify(lock, null, 2)}\n`);
console.log(`${added} entries added`);
