import js from '@eslint/js';
import reactHooks from 'eslint-plugin-react-hooks';
import globals from 'globals';
import tseslint from 'typescript-eslint';
import { coreBoundaries, packageBoundaries, serverBoundaries } from './eslint.boundaries.js';

export default tseslint.config(
  { ignores: ['**/dist/**', '**/node_modules/**', '.velvet/**', 'test-results/**'] },
  js.configs.recommended,
  ...tseslint.configs.strict,
  {
    languageOptions: { globals: { ...globals.node } },
    rules: {
      '@typescript-eslint/no-non-null-assertion': 'error',
      '@typescript-eslint/consistent-type-imports': 'error',
      '@typescript-eslint/no-unused-vars': ['error', { argsIgnorePattern: '^_' }],
      '@typescript-eslint/no-explicit-any': 'error',
      eqeqeq: ['error', 'always', { null: 'ignore' }],
    },
  },
  {
    files: ['apps/web/src/**/*.{ts,tsx}'],
    ...reactHooks.configs.flat['recommended-latest'],
    languageOptions: { globals: globals.browser },
  },
  { files: ['apps/web/src/**/*.tsx'], rules: { 'react-hooks/incompatible-library': 'off' } },
  {
    files: ['apps/web/src/**/*.tsx'],
    ignores: ['apps/web/src/design/**'],
    rules: {
      'no-restricted-syntax': [
        'error',
        {
          selector: 'JSXAttribute[name.name="style"]',
          message: 'Looks live in design/: lay out with Box, or add a part.',
        },
      ],
    },
  },
  { files: ['**/*.test.ts', 'e2e/**'], rules: { '@typescript-eslint/no-non-null-assertion': 'off' } },
  {
    // What takes types to see: promises that nobody waits for, and switches that forget a case.
    files: ['packages/*/src/**/*.ts', 'apps/*/src/**/*.{ts,tsx}', 'demo/src/**/*.ts', 'bench/src/**/*.ts'],
    ignores: ['**/*.test.ts', '**/fixtures.ts'],
    languageOptions: { parserOptions: { projectService: true, tsconfigRootDir: import.meta.dirname } },
    rules: {
      '@typescript-eslint/no-floating-promises': 'error',
      '@typescript-eslint/no-misused-promises': ['error', { checksVoidReturn: { attributes: false } }],
      '@typescript-eslint/await-thenable': 'error',
      '@typescript-eslint/no-unnecessary-type-assertion': 'error',
      '@typescript-eslint/switch-exhaustiveness-check': ['error', { considerDefaultExhaustiveForUnions: true }],
    },
  },
  ...packageBoundaries,
  ...coreBoundaries,
  ...serverBoundaries,
);
