// What the database acknowledges is on the disk. By itself the embedded database runs without syncs: after a power cut it
// may not open, or may have lost everything since its start.
import { closeSync, existsSync, fdatasyncSync, fsyncSync, openSync, readdirSync } from 'node:fs';
import path from 'node:path';
import { PGlite } from '@electric-sql/pglite';
import { NodeFS } from '@electric-sql/pglite/nodefs';

/** A file that is open in the database's file system; folders have no descriptor of their own. */
interface Stream {
  nfd?: number;
  node: object;
}

interface NodeFileSystem {
  realPath(node: object): string;
  stream_ops: { fsync?: (stream: Stream) => number };
}

function syncPath(file: string): void {
  const fd = openSync(file, 'r');
  try {
    fsyncSync(fd);
  } finally {
    closeSync(fd);
  }
}

/** The file system of the machine, with the operation that the embedded one lacks: sync. */
class SyncedFS extends NodeFS {
  override async init(pg: PGlite, options: Parameters<NodeFS['init']>[1]): ReturnType<NodeFS['init']> {
    const made = await super.init(pg, options);
    const before = made.emscriptenOpts.preRun ?? [];
    made.emscriptenOpts.preRun = [
      (module: { FS: { filesystems: { NODEFS: NodeFileSystem } } }) => {
        const fs = module.FS.filesystems.NODEFS;
        fs.stream_ops.fsync = (stream) => {
          if (stream.nfd === undefined) syncPath(fs.realPath(stream.node));
          else fdatasyncSync(stream.nfd);
          return 0;
        };
      },
      ...(before as []),
    ] as typeof before;
    return made;
  }
}

/** As the package starts it, but with syncs (it says -F), and by the method that reaches the operation above. */
const START = [
  ...PGlite.defaultStartParams.filter((p) => p !== '-F'),
  ...['-c', 'fsync=on', '-c', 'synchronous_commit=on', '-c', 'wal_sync_method=fsync', '-c', 'full_page_writes=on'],
];

/** Syncs every file and folder below one: what a first start has laid out is written without syncs. */
function syncTree(dir: string): void {
  for (const entry of readdirSync(dir, { withFileTypes: true })) {
    const at = path.join(dir, entry.name);
    if (entry.isDirectory()) syncTree(at);
    else if (entry.isFile()) syncPath(at);
  }
  syncPath(dir);
}

/** Opens the database in a folder, `from`: laid out from a copy; from the first start on, an acknowledged change outlives a power cut. */
export async function openDurable(dir: string, from?: Blob): Promise<PGlite> {
  const fresh = !existsSync(path.join(dir, 'PG_VERSION'));
  const client = new PGlite({ fs: new SyncedFS(dir), startParams: START, ...(from ? { loadDataDir: from } : {}) });
  await client.waitReady;
  if (fresh) {
    syncTree(dir);
    syncPath(path.dirname(dir));
  }
  return client;
}
