import type { GltfCodecs } from '@/core/io/gltf/openGltf';

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
