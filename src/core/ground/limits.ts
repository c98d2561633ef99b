/**
 * The bounds of all that is read, made and kept, in one place: the page, the door, the readers and the schema of what
 * comes in take them from here. `docs/reliability.md` states why.
 */

/** What is read of a file; more is refused before the work begins. */
export const limits = {
  /** Of one file. */
  bytes: 150 * 1024 * 1024,
  faces: 1_000_000,
  /**
   * Corners of one face, and the sum of their squares over faces of more than 256: cutting self-crossing
   * outlines into triangles takes that long.
   */
  corners: 2_048,
  cornersSquared: 2 ** 26,
  /** Of a glTF file, and how deep they hang below each other. */
  nodes: 65_535,
  nodeDepth: 512,
  /** Texels of all sheets of a kit together. */
  texels: 2 * 4096 * 4096,
} as const;

/** What a zip unpacks to: entries, bytes, and times its own size once that is more than `anyway` bytes. */
export const archiveLimits = { entries: 20_000, bytes: 512 * 1024 * 1024, ratio: 200, anyway: 64 * 1024 * 1024 } as const;
/** Of a zip or folder that is given as an example of a plan: bytes of one text that is read, and of all of them. */
export const exampleLimits = { ...archiveLimits, entries: 5000, text: 200_000, texts: 4 * 1024 * 1024 } as const;
/** Bytes of a stage file that are read; of a GLB of its part that says what stands there. */
export const mostStageBytes = 16 * 1024 * 1024;

/** A drawing whose outlines are stamped: bytes of its file, letters of its paths, corners of all stamps of one act. */
export const stampLimits = { bytes: 1024 * 1024, letters: 200_000, corners: 1024 } as const;

/** What the server takes: bytes of an archive, milliseconds of silence, of reading it whole and of the work, bytes of memory for that, and works at once. */
export const served = {
  bytes: 128 * 1024 * 1024,
  silence: 10_000,
  reading: 60_000,
  work: 60_000,
  memory: 2 * 1024 * 1024 * 1024,
  atOnce: 2,
} as const;

/** In a patch: as in the default coloring. Never the number of a cell or rule. */
export const inherits = 65535;
/** The highest number of a cell: they are kept in 16 bits. */
export const mostCellIds = inherits - 1;
/** Texels along a side of a sheet, or of a layout that is filled in. */
export const maxSheetSize = 4096;

/** Longest texts, in characters: any, the role of a cell, names, a question, the template of a manifest, a path that leaves. */
export const longestText = 500;
export const longestRole = 200;
export const longestVariantName = 80;
export const longestPlacementName = 120;
export const longestCueName = 120;
export const longestQuestion = 300;
export const longestTemplate = 20_000;
export const longestPath = 200;

/** What a template of a manifest may nest, do and say: levels, values that are filled in, characters. */
export const templateLimits = { depth: 32, steps: 300_000, length: 16 * 1024 * 1024 } as const;

/** Most entries of each list of a kit's document, by its key; the door holds every list under such a key to it. */
export const mostIn = {
  sheets: 64,
  cells: 2000,
  ramps: 2000,
  steps: 64,
  appended: 2000,
  stops: 8,
  models: 1000,
  regions: 1000,
  slots: 65_534,
  picks: 100,
  files: 1000,
  variants: 200,
  rules: 12,
  layings: 65_534,
  fills: 20_000,
  placements: 10_000,
  cues: 500,
  motifs: 200,
  references: 1000,
  handOffs: 100,
  parts: 50,
  waived: 10_000,
  colors: 20_000,
} as const;

/** Metres from the middle of the stage, and times the size of what stands there. */
export const farthest = 10_000;
export const scaleBounds = [0.01, 100] as const;
/** Bounds of what a cue counts. */
export const cueBounds = { metres: [0.1, 1000], after: [0, 3600] } as const;
/** What a slider of a variant's rule can set, least and most. */
export const ruleLimits = { lightness: [-0.5, 0.5], strength: [0, 2], hue: [-180, 180], share: [0, 1] } as const;
/** How often a laying repeats, and in how many tones. */
export const mostRepeats = 99;
export const mostBands = 16;
/** Texels of a motif each way, steps of noise either way, and colors of which it is mixed. */
export const largestMotif = 16;
export const mostNoise = 16;
export const mostMixed = 16;
export const heaviest = 100;
/** Roles of a list that is planned at once. */
export const mostRoles = 64;
