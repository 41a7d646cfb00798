import tseslint from 'typescript-eslint';

// The kernels only: they are AssemblyScript, with decorators on functions and types of their own. All else is looked at by
// .oxlintrc.json, with what only types can tell.
export default tseslint.config(...tseslint.configs.recommended, {
  files: ['src/kernels/*.ts'],
  languageOptions: { parserOptions: { allowInvalidAST: true } },
  rules: {
    '@typescript-eslint/ban-ts-comment': 'off',
    '@typescript-eslint/no-unused-vars': ['error', { argsIgnorePattern: '^_', varsIgnorePattern: '^_' }],
  },
});
