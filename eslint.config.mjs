import { defineConfig } from 'eslint/config';
import { importX } from 'eslint-plugin-import-x';
import { createTypeScriptImportResolver } from 'eslint-import-resolver-typescript';
import reactHooks from 'eslint-plugin-react-hooks';
import tseslint from 'typescript-eslint';

const CORE = './src/core';

/** A folder may import only from itself and from what is named here: the architecture, as docs/architecture.md draws it. */
const MAY_IMPORT = {
  core: [],
  engine: ['core'],
  desk: [],
  contracts: ['core', 'desk'],
  server: ['core', 'engine/measure', 'contracts', 'desk'],
  ui: ['core', 'engine', 'contracts'],
  app: ['ui', 'server', 'contracts', 'dev'],
  demo: ['core', 'server'],
  cli: ['core', 'contracts', 'server', 'ui', 'demo'],
  dev: ['core', 'engine', 'contracts', 'server', 'ui', 'demo', 'cli'],
};

const zones = Object.entries(MAY_IMPORT).map(([folder, others]) => ({
  target: `./src/${folder}`,
  from: './src',
  except: [folder, ...others].map((name) => `./${name}`),
  message: `src/${folder} may import only from ${[folder, ...others].join(', ')}.`,
}));

export default defineConfig([
  {
    ignores: [
      '.next/',
      'node_modules/',
      'dist/',
      'data/',
      'test-results/',
      'next-env.d.ts',
      'src/core/kernels/assembly/',
      'src/core/kernels/binary.ts',
      // Files to be added to a copy of the program, which do not fit this one.
      'tests/structure/new-stage/',
    ],
  },
  { languageOptions: { parserOptions: { project: './tsconfig.json', tsconfigRootDir: import.meta.dirname } } },
  {
    files: ['**/*.ts', '**/*.tsx'],
    extends: [tseslint.configs.recommendedTypeChecked],
    plugins: { 'import-x': importX, 'react-hooks': reactHooks },
    settings: {
      'import-x/resolver-next': [createTypeScriptImportResolver({ project: './tsconfig.json' })],
      'import-x/extensions': ['.ts', '.tsx'],
      'import-x/parsers': { '@typescript-eslint/parser': ['.ts', '.tsx'] },
    },
    rules: {
      'import-x/no-restricted-paths': ['error', { zones }],
      'react-hooks/rules-of-hooks': 'error',
      'react-hooks/exhaustive-deps': 'error',
      '@typescript-eslint/consistent-type-imports': ['error', { disallowTypeAnnotations: false }],
      '@typescript-eslint/no-unused-vars': ['error', { argsIgnorePattern: '^_', varsIgnorePattern: '^_' }],
      // Stores and interfaces here are values without a `this`.
      '@typescript-eslint/unbound-method': 'off',
      '@typescript-eslint/switch-exhaustiveness-check': 'error',
      '@typescript-eslint/no-misused-promises': ['error', { checksVoidReturn: { attributes: false } }],
    },
  },
  {
    // The core is pure computation: nothing of the browser, of Node or of React.
    files: ['src/core/**/*.ts'],
    ignores: ['**/*.test.ts'],
    rules: {
      'no-restricted-globals': [
        'error',
        'window',
        'document',
        'process',
        'Buffer',
        'fetch',
        'performance',
        'setTimeout',
        'localStorage',
      ],
      'import-x/no-extraneous-dependencies': 'off',
      'no-restricted-imports': [
        'error',
        { patterns: [{ regex: '^(?!zod$|\\.)', message: `${CORE} imports nothing but itself and zod.` }] },
      ],
    },
  },
  {
    // One unit of work, the pool or a transaction, is handed down from routes, pages, jobs and commands.
    files: ['src/server/**/*.ts'],
    ignores: ['src/server/http/route.ts', 'src/server/accounts/signed-in.ts', 'src/server/jobs/**'],
    rules: {
      'no-restricted-imports': [
        'error',
        {
          patterns: [
            {
              group: ['**/database/connection'],
              importNames: ['database'],
              message: 'Take the unit of work as an argument.',
            },
          ],
        },
      ],
    },
  },
  {
    files: ['src/**/*.ts'],
    rules: {
      'no-restricted-syntax': [
        'error',
        {
          selector:
            'CallExpression[callee.property.name="transaction"] > :function :matches(Identifier[name="db"], CallExpression[callee.name="database"])',
          message: 'Within a transaction everything is done with it: another connection may never come.',
        },
      ],
    },
  },
]);
