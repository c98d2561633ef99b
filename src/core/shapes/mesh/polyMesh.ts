/**
 * A polygon mesh whose faces keep their 3..n corners.
 *
 * Frame: metres, Y up, right-handed, counter-clockwise faces are seen from the front. UV origin is the top left.
 * A corner is a face's use of a vertex; corners of face f are `faceStart[f] .. faceStart[f + 1]`.
 */
export interface PolyMesh {
  /** 3 for each vertex. */
  positions: Float32Array;
  /** faces + 1; the last entry is the number of corners. */
  faceStart: Uint32Array;
  /** 1 for each corner. */
  cornerVertex: Uint32Array;
  /** 3 for each corner, unit length where the file gave one, zero where it gave none. */
  cornerNormals?: Float32Array;
  /** sRGB with alpha, 4 for each corner. */
  cornerColors?: Uint8Array;
  /** 2 for each corner, one array for each UV set. */
  uvSets: Float32Array[];
  /** Index into `slots`, 1 for each face. */
  faceSlot: Uint16Array;
  slots: Slot[];
  /** Index into `objects`, 1 for each face. */
  faceObject: Uint16Array;
  objects: string[];
  /** Index into `groups`, 1 for each face: named groups of the file that overlap objects (OBJ). */
  faceGroup?: Uint16Array;
  groups?: string[];
  source?: MeshSource;
}

/** The way back to the file that a mesh was read from. */
export interface MeshSource {
  /**
   * Where quads were mended from triangles: the file's triangles of corners (0, 1, 2) and (0, 2, 3), 2 for
   * each face; -1 where there is none. It restores the file's own triangulation on export.
   */
  triangles?: Int32Array;
  /**
   * glTF: the primitive of each face, an index into `primitives`, and the vertex of that primitive for each
   * corner.
   */
  facePrimitive?: Uint16Array;
  cornerVertex?: Uint32Array;
  primitives?: SourcePrimitive[];
  /** 1 for each face whose corners a repair has put in the opposite order. */
  reversed?: Uint8Array;
  /** glTF: points and lines that the shown nodes draw besides. */
  otherDraws?: number;
}

interface Joins {
  colored: number;
  bare: number;
}

/** Indices into the lists of a glTF file. */
export interface SourcePrimitive {
  node: number;
  mesh: number;
  primitive: number;
  /**
   * Whether the node turns its triangles over, so that the corners of the mesh run against those of the file.
   * Absent: it is not told.
   */
  mirrored?: boolean;
  /** Whether a skin or morph targets move its vertices. Absent: it is not told. */
  moves?: boolean;
  /** Vertices that cuts have put between those of the file; `MeshSource.cornerVertex` has them from `firstMade` on. */
  made?: MadeVertices;
  /**
   * Primitives with equal numbers can leave as one draw call, where their faces sit on cells (`colored`) and
   * where they stay as they came (`bare`).
   */
  joins?: Joins;
  /** The same where nodes stay apart for their names: those that look meant, or all. Absent: it is not told. */
  apart?: { meant: Joins; named: Joins };
}

/** Where a glTF source's vertices begin that the file does not have. */
export const firstMade = 2 ** 31;

/** Each lies between two of its primitive's vertices, which may be made ones before it. */
export interface MadeVertices {
  /** 2 for each. */
  between: Uint32Array;
  /** How far from the first to the second. */
  share: Float32Array;
}

/** A material as it came in. */
export interface Slot {
  name: string;
  /** sRGB `#rrggbb`. */
  color: string;
  /** Name of the picture that colors it, if any. */
  picture?: string;
  /** Whether the file itself gave this slot a color. */
  given: boolean;
  /** Stands for faces to which the file gives no material. */
  none?: boolean;
  /** Index of the material in a glTF source. */
  material?: number;
  /** Its faces are seen from behind, too. */
  doubleSided?: boolean;
  /** 0..1, where the file made it see-through. */
  alpha?: number;
}

export const faceCount = (mesh: Pick<PolyMesh, 'faceStart'>): number => mesh.faceStart.length - 1;
export const cornerCount = (mesh: PolyMesh): number => mesh.cornerVertex.length;
/** Each n-gon counts as n - 2 triangles. */
export const triangleCount = (mesh: PolyMesh): number => cornerCount(mesh) - 2 * faceCount(mesh);

/** Materials of the file that faces use; faces without one do not count. */
export const materialCount = (mesh: PolyMesh): number => [...new Set(mesh.faceSlot)].filter((s) => !mesh.slots[s]!.none).length;

/** The face of each corner. */
export function faceOfCorners(mesh: PolyMesh): Uint32Array {
  const faces = new Uint32Array(cornerCount(mesh));
  for (let f = 0; f < faceCount(mesh); f++) faces.fill(f, mesh.faceStart[f]!, mesh.faceStart[f + 1]!);
  return faces;
}
