import swc from 'unplugin-swc';
import { defineConfig } from 'vitest/config';

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
    include: ['src/**/*.test.ts', 'tests/reference/**/*.test.ts'],
    setupFiles: ['scripts/vitest-setup.ts'],
    testTimeout: 120_000,
    hookTimeout: 120_000,
    pool: 'forks',
    // Both processors; the default leaves one idle.
    maxWorkers: 2,
  },
});
