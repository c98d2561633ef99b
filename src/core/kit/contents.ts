import type { Kit } from './kit';

export const archiveExtension = '.oligochrome.zip';

/** Addresses of everything that a kit keeps beside its document: meshes and files. */
export const contentsOfKit = (kit: Kit): string[] => [
  ...new Set(kit.models.flatMap((m) => [m.mesh, ...m.source.files.map((f) => f.content)])),
];
