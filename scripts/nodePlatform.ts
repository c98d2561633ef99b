import { createRequire } from 'node:module';
import type { GltfCodecs } from '@/core/io/gltf/openGltf';

const require = createRequire(import.meta.url);

/** Decoders as Node.js loads them. */
export const nodeCodecs: GltfCodecs = {
  draco: () => (require('draco3dgltf') as { createDecoderModule(): Promise<unknown> }).createDecoderModule(),
};
