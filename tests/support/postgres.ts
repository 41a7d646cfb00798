import { execFileSync } from 'node:child_process';
import { chownSync, mkdtempSync, readdirSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { freePort } from './server';

/** Where Debian keeps the programs of a PostgreSQL server; null: none is installed. */
function programs(): string | null {
  try {
    const [newest] = readdirSync('/usr/lib/postgresql').sort((a, b) => Number(b) - Number(a));
    return newest ? `/usr/lib/postgresql/${newest}/bin` : null;
  } catch {
    return null;
  }
}

export interface Cluster {
  url: string;
  stop(): void;
}

/** A PostgreSQL of its own in a temporary folder. The server never runs as root, so root runs it as its own user. */
export async function startCluster(): Promise<Cluster> {
  const bin = programs();
  if (!bin) throw new Error('PostgreSQL is not installed: apt-get install postgresql');
  const root = process.getuid?.() === 0;
  // The scratch folder of the tests may be for its owner alone.
  const dir = mkdtempSync(path.join(root ? '/tmp' : tmpdir(), 'wide-room-postgres-'));
  const run = (program: string, ...args: string[]) => {
    const whole = [path.join(bin, program), ...args];
    const [command, ...rest] = root ? ['runuser', '-u', 'postgres', '--', ...whole] : whole;
    execFileSync(command!, rest, { stdio: 'ignore', cwd: '/' });
  };
  if (root) {
    const uid = Number(execFileSync('id', ['-u', 'postgres']).toString());
    chownSync(dir, uid, uid);
  }
  const data = path.join(dir, 'data');
  const port = await freePort();
  run('initdb', '-D', data, '-U', 'wide', '-A', 'trust', '-E', 'UTF8', '--no-sync');
  const options = `-c listen_addresses=127.0.0.1 -p ${port} -k ${dir} -c fsync=off -c max_connections=300`;
  run('pg_ctl', '-D', data, '-w', '-l', path.join(dir, 'log'), '-o', options, 'start');
  return {
    url: `postgres://wide@127.0.0.1:${port}/postgres`,
    stop: () => {
      run('pg_ctl', '-D', data, '-m', 'immediate', 'stop');
      rmSync(dir, { recursive: true, force: true });
    },
  };
}
