import js from '@eslint/js';
import hooks from 'eslint-plugin-react-hooks';
import tseslint from 'typescript-eslint';

export default tseslint.config(
  { ignores: ['.next/**', '.nimbret/**', 'node_modules/**', 'next-env.d.ts'] },
  js.configs.recommended,
  ...tseslint.configs.recommended,
  {
    files: ['**/*.{ts,tsx}'],
    plugins: { 'react-hooks': hooks },
    rules: {
      'react-hooks/rules-of-hooks': 'error',
      'react-hooks/exhaustive-deps': 'error',
      '@typescript-eslint/consistent-type-imports': ['error', { fixStyle: 'inline-type-imports' }],
      '@typescript-eslint/no-unused-vars': ['error', { argsIgnorePattern: '^_' }],
      // Array indices are known to be in range in the kernels; noUncheckedIndexedAccess would forbid nothing useful there.
      '@typescript-eslint/no-non-null-assertion': 'off',
    },
  },
  {
    // The core is a room with no window: what it may not see, it may not name.
    files: ['src/core/**/*.ts'],
    ignores: ['src/core/**/*.test.ts', 'src/core/tests/**'],
    rules: {
      '@typescript-eslint/no-explicit-any': 'error',
      'no-restricted-globals': ['error', 'window', 'document', 'process', 'performance', 'setTimeout', 'fetch', 'crypto'],
      'no-restricted-properties': ['error', { object: 'Math', property: 'random' }, { object: 'Date', property: 'now' }],
    },
  },
  { files: ['**/*.mjs', '**/*.cjs'], languageOptions: { globals: { console: 'readonly', process: 'readonly', module: 'writable' } } },
);
