import type { Adjacency } from '../mesh/adjacency';
import { boundsOf, largestSide } from '../mesh/measure';
import { faceCount, type PolyMesh } from '../mesh/polyMesh';
import type { CutMesh } from './cutFaces';
import { BorderFace } from './borderFace';
import { fansAtBorder, type BorderCorner } from './borderFans';
import { pointsAtEnds, type EdgePoints, type FaceCut, type FacePlace } from './facePlaces';

/** How wide: metres, or a share of the width at which the outline would meet itself. */
export type BorderWidth = { kind: 'metres'; metres: number } | { kind: 'share'; share: number };

export interface BorderWish {
  /** For each face a number above 0 that those have whose common outline is moved inward; 0 for the others. */
  picked: Uint16Array;
  width: BorderWidth;
  /** So many lines, each as far from the one before. */
  times: number;
}

export interface BorderPlan {
  points: EdgePoints[];
  cuts: FaceCut[];
  /** Metres, between two lines; less than was wished where the outline would meet itself. */
  metres: number;
  isHeldBack: boolean;
  /** By line, the outermost first, where it runs. */
  lines: FacePlace[][];
  /** Corners on the outline. */
  corners: number[];
}

export const mostBorderLines = 8;
/** Share of the greatest width that is used at most, so that something stays inside. */
const heldBackTo = 0.95;

/**
 * Lines that run inside the common outline of faces, as far from it everywhere: over edges at either side of which faces are picked, and
 * with a mitre where the outline turns, from which a cut runs out to its corner. A width at which a line would leave a face that it
 * crosses, or meet itself, is held back. Method: the faces around each corner of the outline are laid out flat one beside the other, and
 * the lines beside its two edges meet half way between them. Throws where no face is picked, or the outline has no edge.
 */
export function planBorderInside(mesh: PolyMesh, adjacency: Adjacency, { picked, width, times }: BorderWish): BorderPlan {
  check(width, times);
  const fans = fansAtBorder(mesh, adjacency, picked);
  const faces = borderFaces(mesh, adjacency, picked, fans);
  if (!faces.length) throw new Error('What is picked has no outline: pick faces that end somewhere.');
  const { min, max } = boundsOf(mesh);
  const wished = width.kind === 'metres' ? width.metres : largestSide({ min, max });
  const widest = faces.reduce((most, face) => (face.fits(most * times) ? most : narrowed(face, most, times)), wished);
  const metres = width.kind === 'share' ? widest * width.share : widest < wished ? widest * heldBackTo : wished;
  if (!(metres > wished * 1e-6)) throw new Error('There is no room for a line inside what is picked.');
  const lines = Array.from({ length: times }, (): FacePlace[] => []);
  const cuts = faces.flatMap((face) => face.cuts(metres, times, lines));
  return {
    points: pointsAtEnds(cuts),
    cuts,
    metres,
    isHeldBack: width.kind === 'metres' && metres < wished,
    lines,
    corners: [...fans.keys()],
  };
}

/** The new faces between the outline and the first line, the second and the third, and so on; or all inside of the last. */
export function stripesOf(plan: BorderPlan, picked: Uint16Array, cut: CutMesh): { stripes: Uint32Array; inside: Uint32Array } {
  const { mesh, origins, vertexAt } = cut;
  const lineOf = new Map<number, number>();
  plan.lines.forEach((places, i) => places.forEach((p) => lineOf.set(vertexAt(p), i + 1)));
  const isOutline = new Uint8Array(mesh.positions.length / 3);
  for (const corner of plan.corners) isOutline[vertexAt({ corner, share: 0 })] = 1;
  const stripes: number[] = [];
  const inside: number[] = [];
  for (let f = 0; f < faceCount(mesh); f++) {
    if (!picked[origins.from[f]!]) continue;
    let least = Infinity;
    for (let c = mesh.faceStart[f]!; c < mesh.faceStart[f + 1]!; c++) {
      const v = mesh.cornerVertex[c]!;
      least = Math.min(least, isOutline[v] ? 0 : (lineOf.get(v) ?? Infinity));
    }
    if (least >= plan.lines.length) inside.push(f);
    else if (least % 2 === 0) stripes.push(f);
  }
  return { stripes: Uint32Array.from(stripes), inside: Uint32Array.from(inside) };
}

/** The picked faces that have corners on the outline. */
function borderFaces(mesh: PolyMesh, adjacency: Adjacency, picked: Uint16Array, fans: ReadonlyMap<number, BorderCorner>): BorderFace[] {
  const faces = new Set([...fans.keys()].map((c) => adjacency.cornerFace[c]!));
  return [...faces].map((f) => new BorderFace(mesh, adjacency, f, picked, fans));
}

/** The greatest width at which lines stay inside a face, by halving. */
function narrowed(face: BorderFace, tooWide: number, times: number): number {
  let [least, most] = [0, tooWide];
  for (let i = 0; i < 30; i++) {
    const middle = (least + most) / 2;
    if (face.fits(middle * times)) least = middle;
    else most = middle;
  }
  return least;
}

function check(width: BorderWidth, times: number): void {
  if (!(Number.isInteger(times) && times >= 1 && times <= mostBorderLines))
    throw new Error(`Inside a border run 1 to ${mostBorderLines} lines at once.`);
  if (width.kind === 'metres' && !(width.metres > 0 && Number.isFinite(width.metres)))
    throw new Error('A border is some metres wide: a number above zero.');
  if (width.kind === 'share' && !(width.share > 0 && width.share < 1))
    throw new Error('A border takes a share above 0 and below 1 of the way to where it meets itself.');
}
