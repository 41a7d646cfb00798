import { readdirSync, readFileSync } from 'node:fs';
import path from 'node:path';
import { defineConfig } from 'vitest/config';

// To load the application takes longer than most of its tests: it is loaded once for all files of a process. Tests that put
// something in the place of a module, or of what a browser has, and leave it there have each a world of their own.
const CHANGING = readdirSync(path.join(import.meta.dirname, 'src'), { recursive: true, encoding: 'utf8' })
  .filter((file) => /\.test\.tsx?$/.test(file))
  .map((file) => path.posix.join('src', file))
  .filter((file) =>
    readFileSync(path.join(import.meta.dirname, file), 'utf8').match(/vi\.mock\(|Object\.assign\(globalThis/),
  );

export default defineConfig({
  resolve: { alias: { '@': new URL('./src', import.meta.url).pathname } },
  test: {
    setupFiles: ['scripts/vitest-setup.ts'],
    // They run in the time that the interface tests leave.
    testTimeout: 300_000,
    hookTimeout: 300_000,
    pool: 'forks',
    // Both processors, and one more for those that wait: for a server's start, for a worker that is taken for dead.
    maxWorkers: 3,
    projects: [
      {
        extends: true,
        test: { ...{ name: 'loaded once', include: ['src/**/*.test.ts'], exclude: CHANGING }, isolate: false },
      },
      // Parts and panels as a browser would show them.
      {
        extends: true,
        test: {
          ...{ name: 'shown', include: ['src/**/*.test.tsx'], exclude: CHANGING },
          ...{ environment: 'jsdom', isolate: false },
        },
      },
      // What mocks, and the application from outside with what others compute.
      {
        extends: true,
        test: { name: 'a world each', include: [...CHANGING, 'tests/{reference,kills,house}/**/*.test.ts'] },
      },
    ],
  },
});
