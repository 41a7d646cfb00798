import swc from 'unplugin-swc';
import { defineConfig } from 'vitest/config';

const CORE = ['src/core/**/*.test.ts', 'src/kernels/**/*.test.ts'];
const SETUP = ['scripts/vitest-setup.ts'];

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
      // What is only computed has no state that a test could leave to the next: it is loaded once for all files.
      { extends: true, test: { name: 'computed', include: CORE, setupFiles: SETUP, isolate: false } },
      {
        extends: true,
        test: {
          name: 'with a world',
          include: ['src/**/*.test.ts', 'tests/{reference,kills,house}/**/*.test.ts'],
          exclude: CORE,
          setupFiles: SETUP,
        },
      },
      // Parts and panels as a browser would show them.
      {
        extends: true,
        test: {
          name: 'shown',
          include: ['src/**/*.test.tsx'],
          environment: 'jsdom',
          setupFiles: [...SETUP, 'scripts/vitest-dom.ts'],
        },
      },
    ],
  },
});
