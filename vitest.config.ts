import { availableParallelism } from 'node:os';
import { defaultClientConditions, defaultServerConditions } from 'vite';
import { defineConfig } from 'vitest/config';

const source = '@kestfog/source';
const node = {
  resolve: { conditions: [source, ...defaultServerConditions] },
  ssr: { resolve: { conditions: [source, ...defaultServerConditions] } },
};
export default defineConfig({
  test: {
    // Left to itself one core of two is kept free for an editor.
    maxWorkers: availableParallelism(),
    projects: [
      {
        ...node,
        test: {
          name: 'core',
          root: 'core',
          environment: 'node',
          isolate: false,
          include: ['src/**/*.test.ts', 'test/**/*.test.ts'],
          testTimeout: 60_000,
        },
      },
      {
        ...node,
        test: {
          name: 'server',
          root: 'server',
          environment: 'node',
          include: ['test/**/*.test.ts'],
          testTimeout: 60_000,
          hookTimeout: 60_000,
        },
      },
      {
        extends: 'web/vite.config.ts',
        resolve: { conditions: [source, ...defaultClientConditions] },
        test: {
          name: 'web',
          root: 'web',
          environment: 'jsdom',
          include: ['src/**/*.test.{ts,tsx}'],
          setupFiles: ['test-setup.ts'],
        },
      },
    ],
  },
});
