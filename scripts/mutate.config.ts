import { defineConfig } from 'vitest/config';
import all from '../vitest.config';

/** Only the tests beside the files into which faults are set. */
export default defineConfig({ ...all, test: { ...all.test, include: [`${process.env.MUTATED}/**/*.test.ts`] } });
