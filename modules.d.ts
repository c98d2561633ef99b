declare module '*.mjs' {
  export const importDirection: unknown;
  export const browserPaths: string[];
}
declare module '*.css';
declare module '@fontsource-variable/*';
declare module 'draco3dgltf/draco_decoder_gltf_nodejs.js' {
  const createDecoder: (options: { wasmBinary: ArrayBuffer }) => Promise<unknown>;
  export default createDecoder;
}
