import { defineConfig } from 'vitest/config';
import all from '../vitest.config';

const elsewhere = (process.env.MUTATED_ELSEWHERE ?? '').split(',').filter(Boolean);

/** Only the tests beside the files into which faults are set, and those named as theirs. */
export default defineConfig({
  ...all,
  test: { ...all.test, setupFiles: ['scripts/mutate.setup.ts'], include: [`${process.env.MUTATED}.test.ts`, ...elsewhere] },
});
