import { readdirSync, readFileSync } from 'node:fs';
import path from 'node:path';
import swc from 'unplugin-swc';
import { defineConfig } from 'vitest/config';

const CORE = ['src/core/**/*.test.ts', 'src/kernels/**/*.test.ts'];
const SETUP = ['scripts/vitest-setup.ts'];
const DOM = [...SETUP, 'scripts/vitest-dom.ts'];

// To load the application takes longer than most of its tests: it is loaded once for all files of a process. Tests that put
// something in the place of a module have each a world of their own.
const MOCKING = readdirSync(path.join(import.meta.dirname, 'src'), { recursive: true, encoding: 'utf8' })
  .filter((file) => /\.test\.tsx?$/.test(file))
  .map((file) => path.posix.join('src', file))
  .filter((file) => readFileSync(path.join(import.meta.dirname, file), 'utf8').includes('vi.mock('));

export default defineConfig({
  plugins: [
    // Decorator metadata is needed by the validated edits; esbuild does not emit it.
    swc.vite({
      jsc: {
        transform: { decoratorMetadata: true, legacyDecorator: true, useDefineForClassFields: false },
        parser: { syntax: 'typescript', decorators: true, tsx: true },
      },
    }),
  ],
  resolve: { alias: { '@': new URL('./src', import.meta.url).pathname } },
  test: {
    // They run in the time that the interface tests leave.
    testTimeout: 300_000,
    hookTimeout: 300_000,
    pool: 'forks',
    // Both processors, and one more for those that wait: for a server's start, for a worker that is taken for dead.
    maxWorkers: 3,
    projects: [
      { extends: true, test: { name: 'computed', include: CORE, setupFiles: SETUP, isolate: false } },
      {
        extends: true,
        test: {
          ...{ name: 'stored and sent', include: ['src/**/*.test.ts'], exclude: [...CORE, ...MOCKING] },
          ...{ setupFiles: SETUP, isolate: false },
        },
      },
      // Parts and panels as a browser would show them.
      {
        extends: true,
        test: {
          ...{ name: 'shown', include: ['src/**/*.test.tsx'], exclude: MOCKING },
          ...{ environment: 'jsdom', setupFiles: DOM, isolate: false },
        },
      },
      {
        extends: true,
        test: {
          ...{ name: 'with stand-ins', include: MOCKING.filter((file) => file.endsWith('.ts')), setupFiles: SETUP },
        },
      },
      {
        extends: true,
        test: {
          ...{ name: 'shown with stand-ins', include: MOCKING.filter((file) => file.endsWith('.tsx')) },
          ...{ environment: 'jsdom', setupFiles: DOM },
        },
      },
      // The application from outside, and what others compute.
      {
        extends: true,
        test: { name: 'outside', include: ['tests/{reference,kills,house}/**/*.test.ts'], setupFiles: SETUP },
      },
    ],
  },
});
