import { startPictureDecoder } from '@/core/ground/pictures/decodePicture';
import type { GltfCodecs } from '@/core/files/gltf/openGltf';

/** Decoders as a browser's worker loads them: the code with the bundle, the binary from our own server. */
export const codecs: GltfCodecs = {
  draco: async () => {
    const [{ default: createDecoder }, response] = await Promise.all([
      import('draco3dgltf/draco_decoder_gltf_nodejs.js'),
      fetch('/codecs/draco_decoder_gltf.wasm'),
    ]);
    if (!response.ok) throw new Error('The decoder for compressed meshes could not be loaded.');
    return createDecoder({ wasmBinary: await response.arrayBuffer() });
  },
};

let started: Promise<void> | null = null;

/** Fetches the decoder of pictures once. */
export const pictureDecoder = (): Promise<void> =>
  (started ??= (async () => {
    const response = await fetch('/codecs/pictures.wasm');
    if (!response.ok) {
      started = null;
      throw new Error('The decoder for pictures could not be loaded.');
    }
    startPictureDecoder(await response.arrayBuffer());
  })());
