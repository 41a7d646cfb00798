import tseslint from 'typescript-eslint';
import jsxA11y from 'eslint-plugin-jsx-a11y';
import reactHooks from 'eslint-plugin-react-hooks';

/** What only types can tell: promises that nobody waits for, and what a type says already. */
const typed = {
  files: ['**/*.{ts,tsx}'],
  ignores: ['src/kernels/*.ts', 'playwright*.ts', 'vitest.config.ts'],
  languageOptions: { parserOptions: { projectService: true, tsconfigRootDir: import.meta.dirname } },
  rules: {
    '@typescript-eslint/no-floating-promises': 'error',
    '@typescript-eslint/no-misused-promises': ['error', { checksVoidReturn: { attributes: false } }],
    '@typescript-eslint/await-thenable': 'error',
    '@typescript-eslint/no-unnecessary-type-assertion': 'error',
    '@typescript-eslint/no-for-in-array': 'error',
    '@typescript-eslint/no-base-to-string': 'error',
    '@typescript-eslint/switch-exhaustiveness-check': ['error', { considerDefaultExhaustiveForUnions: true }],
    '@typescript-eslint/restrict-plus-operands': 'error',
    '@typescript-eslint/prefer-promise-reject-errors': 'error',
    '@typescript-eslint/only-throw-error': 'error',
    '@typescript-eslint/require-array-sort-compare': ['error', { ignoreStringArrays: true }],
    '@typescript-eslint/return-await': ['error', 'error-handling-correctness-only'],
  },
};

export default tseslint.config(
  { ignores: ['.next', 'build', 'dist', 'public', 'node_modules', 'data', 'next-env.d.ts'] },
  ...tseslint.configs.recommended,
  {
    files: ['**/*.{ts,tsx}'],
    plugins: { 'react-hooks': reactHooks },
    rules: {
      'react-hooks/rules-of-hooks': 'error',
      'react-hooks/exhaustive-deps': 'warn',
      '@typescript-eslint/no-unused-vars': ['error', { argsIgnorePattern: '^_', varsIgnorePattern: '^_' }],
      '@typescript-eslint/no-explicit-any': 'error',
      eqeqeq: ['error', 'always', { null: 'ignore' }],
    },
  },
  // They take as long as a check of all types: in `npm test` and `npm run lint:types`, not before each commit.
  ...(process.env.LINT_TYPES === '1' ? [typed] : []),
  {
    ...jsxA11y.flatConfigs.recommended,
    files: ['src/**/*.tsx'],
    rules: {
      ...jsxA11y.flatConfigs.recommended.rules,
      // A dialog or a field that was asked for begins where one types: the focus was moved there by hand.
      'jsx-a11y/no-autofocus': 'off',
      'jsx-a11y/label-has-associated-control': [
        'error',
        { controlComponents: ['Choice', 'TextField', 'NumberField', 'TimecodeField', 'Figure'], depth: 4 },
      ],
      // Keys that are heard on their way up from the buttons inside.
      'jsx-a11y/no-static-element-interactions': ['error', { handlers: ['onClick', 'onMouseDown', 'onMouseUp'] }],
      'jsx-a11y/no-noninteractive-element-interactions': [
        'error',
        { handlers: ['onClick', 'onMouseDown', 'onMouseUp'] },
      ],
    },
  },
  {
    // AssemblyScript: functions may have decorators, and its types are its own.
    files: ['src/kernels/*.ts'],
    languageOptions: { parserOptions: { allowInvalidAST: true } },
    rules: {
      '@typescript-eslint/ban-ts-comment': 'off',
      // == and === are the same there.
      eqeqeq: 'off',
    },
  },
  { files: ['**/*.{cjs,mjs}'], rules: { '@typescript-eslint/no-require-imports': 'off' } },
);
