import nextJest from 'next/jest.js';

const withNext = nextJest({ dir: '.' });

/** Packages that are ES modules only: Jest runs CommonJS, so they are compiled like our own code. */
const MODULES = ['d3-[a-z-]+', 'internmap', 'filenamify', 'filename-reserved-regex', 'react-hotkeys-hook'];

/** Pure computation and outside checks, views in a document of their own, and what needs the running application. */
async function project(displayName, testMatch, extra = {}) {
  const config = await withNext({
    displayName,
    testEnvironment: 'node',
    // Looked up in a test's sandbox it costs many times what its functions do.
    sandboxInjectedGlobals: ['Math'],
    testMatch,
    moduleNameMapper: { '^@/(.*)$': '<rootDir>/src/$1' },
    ...extra,
  })();
  return { ...config, transformIgnorePatterns: [`/node_modules/(?!(${MODULES.join('|')})/)`] };
}

export default async () => ({
  maxWorkers: 2,
  testTimeout: 240_000,
  // Beside the packages, so that it outlives the folder for what is temporary.
  cacheDirectory: 'node_modules/.cache/jest',
  projects: [
    await project('core', ['<rootDir>/src/**/*.test.ts', '<rootDir>/tests/{reference,structure}/**/*.test.ts']),
    await project('views', ['<rootDir>/src/ui/**/*.test.tsx'], { testEnvironment: 'jest-environment-jsdom' }),
    await project('server', ['<rootDir>/tests/server/**/*.test.ts'], {
      testEnvironment: '<rootDir>/tests/support/server-environment.ts',
      globalSetup: '<rootDir>/tests/server/setup.ts',
      globalTeardown: '<rootDir>/tests/server/teardown.ts',
    }),
  ],
});
