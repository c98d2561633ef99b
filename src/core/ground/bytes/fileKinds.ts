import { extensionOf } from './text';

export interface NamedFile {
  name: string;
  bytes: Uint8Array;
}

export const modelExtensions = ['obj', 'gltf', 'glb', 'ply', 'stl'] as const;
export const isModelFile = (name: string): boolean => (modelExtensions as readonly string[]).includes(extensionOf(name));
