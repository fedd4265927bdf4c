import js from '@eslint/js';
import tseslint from 'typescript-eslint';
import hooks from 'eslint-plugin-react-hooks';
import globals from 'globals';

export default tseslint.config(
  {
    ignores: [
      '**/node_modules',
      '**/dist',
      '**/build',
      'core/kernel/assembly',
      'core/kernel/denoise',
      '.data',
    ],
  },
  js.configs.recommended,
  ...tseslint.configs.recommended,
  {
    languageOptions: { globals: { ...globals.browser, ...globals.node } },
    rules: {
      '@typescript-eslint/no-unused-vars': ['error', { argsIgnorePattern: '^_' }],
      '@typescript-eslint/consistent-type-imports': 'error',
      eqeqeq: 'error',
      'no-useless-assignment': 'off',
    },
  },
  { files: ['**/*.cjs'], rules: { '@typescript-eslint/no-require-imports': 'off' } },
  {
    files: ['**/*.ts', '**/*.tsx'],
    languageOptions: { parserOptions: { projectService: true, tsconfigRootDir: import.meta.dirname } },
    rules: { '@typescript-eslint/no-floating-promises': 'error' },
  },
  {
    // engines differ in the last place of these: pictures must not
    files: ['core/src/**/*.ts'],
    ignores: ['core/src/maths/**'],
    rules: {
      'no-restricted-properties': [
        'error',
        ...[
          'sin',
          'cos',
          'tan',
          'asin',
          'acos',
          'atan',
          'atan2',
          'exp',
          'log',
          'log2',
          'log10',
          'pow',
          'cbrt',
        ].map((property) => ({
          object: 'Math',
          property,
          message: 'Use core/src/maths/reproducible.ts: engines differ in the last place.',
        })),
      ],
    },
  },
  {
    // a document is one only when it has passed its door
    files: ['{wire,store,server,render,web,demo}/src/**/*.{ts,tsx}'],
    rules: {
      'no-restricted-syntax': [
        'error',
        {
          selector: "TSAsExpression > TSTypeReference > Identifier[name='Project']",
          message: 'Documents from outside pass openDocument().',
        },
        {
          selector: "TSAsExpression > TSTypeReference > Identifier[name='Finish']",
          message: 'Finishes from outside pass openFinish().',
        },
      ],
    },
  },
  {
    files: ['web/src/**/*.{ts,tsx}'],
    plugins: { 'react-hooks': hooks },
    rules: { 'react-hooks/rules-of-hooks': 'error', 'react-hooks/exhaustive-deps': 'error' },
  },
);
