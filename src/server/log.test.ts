import { describe, expect, it } from 'vitest';
import { brief } from './log';

describe('what is logged of an error', () => {
  it('is its kind, its message and where it came from, and nothing that it carries along', () => {
    const script = 'Mind the gauge. '.repeat(10_000);
    const query = Object.assign(new Error(`Failed query: insert\nparams: ${script}`), {
      params: [script],
      query: 'insert',
      cause: Object.assign(new Error('disk full'), { code: 'ENOSPC', detail: script }),
    });
    const told = brief(query);
    expect(JSON.stringify(told).length).toBeLessThan(6_000);
    expect(told).toMatchObject({ type: 'Error', cause: { message: 'disk full', code: 'ENOSPC' } });
    expect(told).not.toHaveProperty('params');
    expect(JSON.stringify(told)).not.toContain('Mind the gauge.');
  });
  it('is whatever was thrown, where that is no error', () => {
    expect(brief('gone')).toEqual({ message: 'gone' });
    expect(brief(null)).toEqual({ message: 'null' });
  });
});
