import { availableParallelism } from 'node:os'
import { fileURLToPath } from 'node:url'
import { defineConfig } from 'vitest/config'
import { compileSampler } from './scripts/sampler.mjs'

compileSampler()

export default defineConfig({
  test: {
    // Much of the time tests wait for others' work: leaving a core free for that would be too much of two.
    maxWorkers: availableParallelism(),
    projects: [
      {
        test: {
          name: 'core',
          // Long enough for a machine that is busy with other things: a test is not to fail for that.
          testTimeout: 180_000,
          // Nothing in these rooms keeps state that one test could leave to another, and to load them for each file takes longer than most tests.
          isolate: false,
          include: ['tests/core/**/*.test.ts', 'tests/reference/**/*.test.ts', 'tests/draw/**/*.test.ts'],
        },
      },
      {
        resolve: { alias: { '~': fileURLToPath(new URL('./app', import.meta.url)) } },
        test: { name: 'app', include: ['tests/app/**/*.test.ts'], environment: 'happy-dom' },
      },
      {
        test: {
          name: 'server',
          include: ['tests/server/**/*.test.ts'],
          globalSetup: 'tests/support/setup.ts',
          testTimeout: 120_000,
          hookTimeout: 120_000,
        },
      },
      {
        test: {
          name: 'browser',
          // As for the core: what the files share stays with the page, not with the module.
          isolate: false,
          include: ['tests/browser/**/*.test.ts'],
          testTimeout: 180_000,
          hookTimeout: 180_000,
          globalSetup: 'tests/support/setup.ts',
        },
      },
    ],
  },
})
