import tseslint from 'typescript-eslint';
import reactHooks from 'eslint-plugin-react-hooks';

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
