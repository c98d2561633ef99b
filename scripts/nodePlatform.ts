import { readFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import { startPictureDecoder } from '@/core/ground/pictures/decodePicture';
import type { GltfCodecs } from '@/core/files/gltf/openGltf';

const require = createRequire(import.meta.url);

/** Decoders as Node.js loads them. */
export const nodeCodecs: GltfCodecs = {
  draco: () => (require('draco3dgltf') as { createDecoderModule(): Promise<unknown> }).createDecoderModule(),
};

/** Starts the decoder of pictures. */
export const startNodePictures = (): void => startPictureDecoder(readFileSync(require.resolve('@cf-wasm/photon/photon.wasm')));
