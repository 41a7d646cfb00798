import { mkdirSync } from 'node:fs';
import { describe, expect, it } from 'vitest';
import { answerTo } from './causes';

const thrown = (work: () => void): unknown => {
  try {
    work();
  } catch (error) {
    return error;
  }
  throw new Error('nothing was thrown');
};

describe('what is said of a cause', () => {
  it.each([
    // PostgreSQL, appendix A, class 53: 53100 disk_full.
    ['the database, by its code', Object.assign(new Error('could not extend file'), { code: '53100' })],
    ['the database, by its words', new Error('could not write to file "pg_wal/1": No space left on device')],
    [
      'a query, by what it was caused by',
      new Error('Failed query', { cause: Object.assign(new Error('x'), { code: '53100' }) }),
    ],
    ['the file system', Object.assign(new Error('ENOSPC'), { code: 'ENOSPC' })],
  ])('a full disk: %s', (_, error) => {
    expect(answerTo(error)).toMatchObject({
      status: 507,
      body: { message: expect.stringContaining('disk of the server is full') as string },
    });
  });
  it('a folder that cannot be written is no folder that does not exist', () => {
    const said = answerTo(thrown(() => mkdirSync('/sys/wide-room')))!;
    expect(said.status).toBe(403);
    expect(said.body.message).toMatch(/wide-room/);
    expect(said.body.message).not.toMatch(/missing|does not exist/);
  });
  it('nothing where it is not known', () => {
    expect(answerTo(new Error('x'))).toBeNull();
    expect(answerTo(null)).toBeNull();
    expect(answerTo('x')).toBeNull();
  });
});
