import type { FaceOrigins } from '../mesh/faceOrigins';
import type { PolyMesh } from '../mesh/polyMesh';

/** A mesh made of another one by a repair. */
export interface Repaired {
  mesh: PolyMesh;
  /** A face whose corners run the other way now keeps its first one. */
  origins: FaceOrigins;
  /** What changed: faces turned or dropped, vertices welded, or 1. */
  changed: number;
}
