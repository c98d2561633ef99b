import next from 'eslint-config-next/core-web-vitals';
import tseslint from 'typescript-eslint';
import { importDirection } from './scripts/lint/importDirection.mjs';
import { noOpenRecords } from './scripts/lint/noOpenRecords.mjs';
import { throwsAreSaid } from './scripts/lint/throwsAreSaid.mjs';

export default tseslint.config(
  { ignores: ['.next/', 'dist/', 'node_modules/', 'public/', 'next-env.d.ts', 'test-results/', 'playwright-report/'] },
  // What is about React is looked for where React is: it is most of the work.
  ...next.map((config) => ({ ...config, files: ['src/{app,ui,views,state}/**/*.{ts,tsx}'] })),
  ...tseslint.configs.strict,
  {
    rules: {
      '@typescript-eslint/no-non-null-assertion': 'off',
      '@typescript-eslint/no-unused-vars': ['error', { varsIgnorePattern: '^_', argsIgnorePattern: '^_' }],
      '@typescript-eslint/no-invalid-void-type': 'off',
      '@typescript-eslint/no-dynamic-delete': 'off',
      '@typescript-eslint/unified-signatures': 'off',
    },
  },
  {
    files: ['src/**/*.{ts,tsx}'],
    plugins: { layers: { rules: { 'import-direction': importDirection } } },
    rules: { 'layers/import-direction': 'error' },
  },
  {
    files: ['src/**/*.{ts,tsx}'],
    ignores: ['**/*.test.ts'],
    plugins: { tables: { rules: { 'no-open-records': noOpenRecords } } },
    rules: { 'tables/no-open-records': 'error' },
  },
  {
    files: ['src/core/**/*.ts'],
    plugins: { docs: { rules: { 'throws-are-said': throwsAreSaid } } },
    rules: { 'docs/throws-are-said': 'error' },
  },
);
