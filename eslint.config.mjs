import js from '@eslint/js';
import hooks from 'eslint-plugin-react-hooks';
import regexp from 'eslint-plugin-regexp';
import globals from 'globals';
import ts from 'typescript-eslint';
import { plainWords } from './scripts/retiredWords.mjs';

/** Says which workspaces a folder may not import from; dependencies point one way. */
const mayNotImport = (files, names, why, extra = []) => ({
  files,
  rules: {
    'no-restricted-imports': [
      'error',
      {
        patterns: [
          { regex: `^@grammata/(${names.join('|')})(/|$)`, message: why },
          {
            regex: '^(\\.\\./){2,}(packages|demo|server|web|cli|core|contract|practice)/',
            message: 'Import a workspace by its name.',
          },
          ...extra,
        ],
      },
    ],
  },
});
const door = { regex: '^\\.\\./[a-z-]+/.+', message: 'A folder has one door: import from its index.' };
const io = {
  regex: '^(node:|fs$|path$|http$|undici|express|libsql|drizzle-orm|react)',
  message: 'The core computes; it does no input or output.',
};

/** What a pattern is built of is a pattern itself: whoever gives it decides how long it takes. */
const noPattern = {
  selector: ":matches(NewExpression, CallExpression)[callee.name='RegExp']",
  message: 'A pattern is written, and never built of data.',
};

export default ts.config(
  { ignores: ['**/dist/**', '**/node_modules/**', 'data/**', 'test-results/**', 'packages/server/migrations/**'] },
  js.configs.recommended,
  ...ts.configs.recommended,
  {
    languageOptions: { globals: { ...globals.node } },
    rules: {
      '@typescript-eslint/consistent-type-imports': 'error',
      '@typescript-eslint/no-unused-vars': ['error', { argsIgnorePattern: '^_', varsIgnorePattern: '^_' }],
      eqeqeq: ['error', 'always', { null: 'ignore' }],
      'no-console': 'error',
      'max-lines': ['error', { max: 400, skipBlankLines: true, skipComments: true }],
    },
  },
  {
    // A pattern takes time by the length of its text, whatever the text is.
    plugins: { regexp },
    files: ['packages/**/src/**', 'demo/src/**'],
    ignores: ['**/*.test.ts', '**/*.slow.ts'],
    rules: {
      'regexp/no-super-linear-backtracking': ['error', { report: 'potential' }],
      'regexp/no-super-linear-move': ['error', { report: 'potential' }],
    },
  },
  {
    files: ['packages/web/src/**/*.{ts,tsx}'],
    ...hooks.configs.flat.recommended,
    languageOptions: { globals: globals.browser },
  },
  // The virtual list is meant to be read anew at each rendering.
  { files: ['packages/web/src/**/*.tsx'], rules: { 'react-hooks/incompatible-library': 'off' } },
  {
    files: ['packages/*/src/**/*.{ts,tsx}'],
    ignores: ['**/*.test.{ts,tsx}'],
    rules: { 'no-restricted-syntax': ['error', noPattern] },
  },
  {
    // One word for one thing, in every text (docs/words.md). What names decoders look for are words of others.
    plugins: { plain: { rules: { words: plainWords } } },
    files: ['packages/{web,server,core,contract,cli}/src/**/*.{ts,tsx}'],
    ignores: ['**/*.test.{ts,tsx}', 'packages/core/src/decode/names/**', 'packages/core/src/match/concepts.ts', '**/testing/**'],
    rules: { 'plain/words': 'error' },
  },
  { files: ['packages/web/public/**'], languageOptions: { globals: globals.browser } },
  mayNotImport(
    ['packages/core/src/**'],
    ['contract', 'server', 'web', 'practice', 'cli', 'demo'],
    'The core knows no other package.',
    [door, io],
  ),
  mayNotImport(
    ['packages/contract/src/**'],
    ['server', 'web', 'practice', 'cli', 'demo'],
    'The contract knows only the core.',
  ),
  mayNotImport(
    ['packages/server/src/**'],
    ['web', 'practice', 'cli', 'demo'],
    'The server knows the contract and the core.',
  ),
  mayNotImport(
    ['packages/web/src/**'],
    ['server', 'practice', 'cli', 'demo'],
    'The interface talks to the server over HTTP.',
  ),
  mayNotImport(
    ['packages/practice/src/**'],
    ['server', 'web', 'cli', 'demo'],
    'The practice yard is a world of its own.',
  ),
  mayNotImport(
    ['packages/cli/src/**'],
    ['web', 'practice', 'demo'],
    'The command line needs the core and the contract.',
  ),
  {
    // One place starts timers and catches what they do; streams are joined by pipeline, which hears of every end.
    files: ['packages/server/src/**/*.ts'],
    ignores: [
      '**/*.test.ts',
      'packages/server/src/testing/**',
      'packages/server/src/timing/**',
      'packages/server/src/lastResort.ts',
    ],
    rules: {
      'no-restricted-globals': [
        'error',
        ...['setTimeout', 'setInterval', 'setImmediate'].map(name => ({
          name,
          message: 'Timers are started by timing.',
        })),
      ],
      'no-restricted-syntax': [
        'error',
        { selector: "CallExpression[callee.property.name='pipe']", message: 'Streams are joined by pipeline.' },
        noPattern,
      ],
    },
  },
  {
    files: ['packages/server/src/api/**'],
    ignores: ['**/*.test.ts', '**/*.slow.ts'],
    rules: {
      'no-restricted-syntax': [
        'error',
        { selector: "CallExpression[callee.property.name='pipe']", message: 'Streams are joined by pipeline.' },
        noPattern,
        {
          selector:
            "CallExpression[callee.object.object.name='store'][callee.property.name=/^(create|update|remove|save|keep|add|record|again|pause|goLive|describe|read)/]",
          message: 'What changes something is a use-case that is told who acts (acts).',
        },
      ],
    },
  },
  {
    // What is read may be of any length; a call takes some hundred thousand arguments at most.
    files: ['packages/core/src/decode/**'],
    ignores: ['**/*.test.ts', '**/*.slow.ts'],
    rules: {
      'no-restricted-syntax': [
        'error',
        {
          selector: 'CallExpression[callee.property.name=/^(push|unshift|max|min)$/] > SpreadElement',
          message: 'Go through them one by one: there may be more than a call takes.',
        },
        noPattern,
      ],
    },
  },
  {
    files: ['scripts/**', 'bench/**', 'packages/cli/**', 'packages/*/bin/**', 'demo/src/main.ts'],
    rules: { 'no-console': 'off' },
  },
  { files: ['**/*.test.ts', 'e2e/**', 'bench/corpus/**', 'bench/pairs/**'], rules: { 'max-lines': 'off' } },
);
