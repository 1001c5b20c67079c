import presets from 'jest-preset-angular/presets/index.js';

const node = {
  testEnvironment: 'node',
  extensionsToTreatAsEsm: ['.ts'],
  transform: { '^.+\\.ts$': ['@swc/jest', { jsc: { parser: { syntax: 'typescript' }, target: 'es2022' }, module: { type: 'es6' } }] },
  moduleNameMapper: { '^@core/(.*)$': '<rootDir>/packages/core/src/$1/index.ts' },
};

/** One project for each kind of test; `node scripts/test.mjs` chooses among them. */
export default {
  testTimeout: 150_000,
  projects: [
    { ...node, displayName: 'core', testMatch: ['<rootDir>/packages/core/**/*.spec.ts'] },
    { ...node, displayName: 'server', testMatch: ['<rootDir>/packages/server/**/*.spec.ts', '<rootDir>/packages/standins/**/*.spec.ts'] },
    {
      ...presets.createEsmPreset({ tsconfig: '<rootDir>/packages/web/tsconfig.spec.json' }),
      displayName: 'web',
      testMatch: ['<rootDir>/packages/web/**/*.spec.ts'],
      setupFilesAfterEnv: ['<rootDir>/packages/web/testing/setup.ts'],
      moduleNameMapper: { '^@core/(.*)$': '<rootDir>/packages/core/src/$1/index.ts' },
    },
    { ...node, displayName: 'e2e', testMatch: ['<rootDir>/e2e/**/*.e2e.ts'] },
  ],
};
