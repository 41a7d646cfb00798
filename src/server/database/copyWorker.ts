import { readFileSync } from 'node:fs';
import { PGlite } from '@electric-sql/pglite';

// Opens a copy of the database in memory and reads every session in it: ends with 0 where it could be used.
const client = new PGlite({ loadDataDir: new Blob([readFileSync(process.argv[2]!)]) });
client.waitReady
  .then(() => client.query('select count(*), sum(length(doc::text)) from sessions'))
  .then(
    () => process.exit(0),
    () => process.exit(1),
  );
