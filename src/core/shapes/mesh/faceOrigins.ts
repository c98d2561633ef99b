/**
 * What became of the faces of one mesh in another that was made of it, or is like it: all that lies on faces
 * (seats, regions, seams, named picks) is carried by this alone, whether the faces were matched, repaired or
 * completed. Plain arrays, so that it passes between workers.
 */
export interface FaceOrigins {
  /** For each face of the new mesh the face that it was; -1 for one that is new or not known again. */
  from: Int32Array;
  /**
   * For each face of the new mesh how its corners run beside those of its old face: see `cornerRun`. Without
   * it, all by their places.
   */
  order?: Int8Array;
  /**
   * Places of the old mesh's vertices as they are to be compared with the new ones, 3 each; without it, as
   * they are.
   */
  frame?: Float32Array;
  /** Where the new mesh's corners lie on their old faces. Where it is told, nothing is told by places. */
  corners?: CornersOnOutlines;
}

/** 1 for each corner of a new mesh: the old one at which it begins, and how far along that one's edge it lies; 0 at it. */
export interface CornersOnOutlines {
  corner: Uint32Array;
  share: Float32Array;
  /** 1 where a new corner's edge runs along the old one's, though its other end may lie further on. */
  onEdge?: Uint8Array;
  /** Where new corners lie inside of old faces: another place of the outline, and how far from the first to it they lie; 0 on the outline. */
  across?: { corner: Uint32Array; share: Float32Array; part: Float32Array };
}

/** What a new corner has of a value that the old ones have; `next`: the corner after one in its face. */
export function mixedAt(
  { corner, share, across }: CornersOnOutlines,
  at: number,
  value: (oldCorner: number) => number,
  next: (oldCorner: number) => number,
): number {
  const along = (c: number, s: number) => {
    const a = value(c);
    return s > 0 ? a + (value(next(c)) - a) * s : a;
  };
  const first = along(corner[at]!, share[at]!);
  const part = across?.part[at] ?? 0;
  return part > 0 ? first + (along(across!.corner[at]!, across!.share[at]!) - first) * part : first;
}

/**
 * A corner is the one of the same number, or of the opposite order with the first staying the first, or is
 * told by where it lies.
 */
export const cornerRun = { same: 1, turned: -1, byPlace: 0 } as const;

/**
 * Which corner of its old face, of `size` corners, a corner of a new face was; both are counted from their
 * face's first. -1: to be told by places.
 */
export function oldCorner({ order }: FaceOrigins, face: number, corner: number, size: number): number {
  const run = order?.[face] ?? cornerRun.byPlace;
  if (run === cornerRun.byPlace) return -1;
  return run === cornerRun.turned ? (size - corner) % size : corner % size;
}

/** Faces that stayed what they were, all corners as before, but for those that are 1 in `turned`. */
export const sameCorners = (from: Int32Array, turned?: Uint8Array): FaceOrigins => ({
  from,
  order: Int8Array.from(from, (_, f) => (turned?.[f] ? cornerRun.turned : cornerRun.same)),
});
