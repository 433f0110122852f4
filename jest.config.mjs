import nextJest from 'next/jest.js';

const withNext = nextJest({ dir: '.' });

/** Pure computation and outside checks in one project, what needs the running application in the other. */
const project = (displayName, testMatch, extra = {}) =>
  withNext({
    displayName,
    testEnvironment: 'node',
    testMatch,
    moduleNameMapper: { '^@/(.*)$': '<rootDir>/src/$1' },
    ...extra,
  })();

export default async () => ({
  maxWorkers: 2,
  testTimeout: 240_000,
  projects: [
    await project('core', ['<rootDir>/src/**/*.test.ts', '<rootDir>/tests/reference/**/*.test.ts']),
    await project('server', ['<rootDir>/tests/server/**/*.test.ts'], {
      globalSetup: '<rootDir>/tests/server/setup.ts',
      globalTeardown: '<rootDir>/tests/server/teardown.ts',
    }),
  ],
});
