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
declare module 'draco3dgltf' {
  const draco3d: { createDecoderModule(): Promise<unknown>; createEncoderModule(): Promise<unknown> };
  export default draco3d;
}
declare module 'gltf-validator' {
  const validator: {
    validateBytes(bytes: Uint8Array): Promise<{
      issues: { numErrors: number; numWarnings: number; messages: { code: string; severity: number; message: string; pointer?: string }[] };
    }>;
  };
  export default validator;
}
declare module 'cdt2d' {
  /** Triangles of points, between edges that are kept; `exterior: false`: those alone that an odd number of edges parts from the outside. */
  export default function cdt2d(
    points: readonly (readonly [number, number])[],
    edges: readonly (readonly [number, number])[],
    options: { exterior: boolean },
  ): number[][];
}
