// Puts what the server lets a process of its own do into one file, so that it starts in a fraction of the time.
import { build } from 'esbuild';

export const bundleWork = () =>
  build({
    entryPoints: ['src/app/api/hand-off/work.ts'],
    bundle: true,
    platform: 'node',
    format: 'esm',
    external: ['draco3dgltf'],
    // Some packages still ask for others in the old way.
    banner: { js: "import { createRequire as requireOf } from 'node:module'; const require = requireOf(import.meta.url);" },
    outfile: 'dist/hand-off.mjs',
    logLevel: 'warning',
  });

if (process.argv[1]?.endsWith('bundleWork.mjs')) await bundleWork();
