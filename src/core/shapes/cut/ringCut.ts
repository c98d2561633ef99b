import { edgeLength, nextCorner, type Adjacency } from '../mesh/adjacency';
import type { PolyMesh } from '../mesh/polyMesh';
import type { CutMesh } from './cutFaces';
import { isSamePlace, leastShare, type EdgePoints, type OutlinePlace, type StraightCut } from './facePlaces';

/** A quad that a ring crosses: over which edge it comes in, and over which it goes on, each as the corner whose edge it is. */
export interface Crossing {
  face: number;
  in: number;
  out: number;
  /** Whether what the ring has at its left is at the end of the first edge, not at its beginning. */
  isTurned: boolean;
}

export interface RingOfQuads {
  /** In the order in which the ring runs. */
  crossings: Crossing[];
  isClosed: boolean;
}

/** Where a ring is cut: so many times in even steps, once at a share from its left, or once at metres from its left or right border. */
export type RingPlaces =
  { kind: 'even'; count: number } | { kind: 'share'; share: number } | { kind: 'metres'; metres: number; from: 'left' | 'right' };

/** The most cuts at once along a ring. */
export const mostRingCuts = 16;

/**
 * The quads that a cut runs through which crosses the edge of a corner: over opposite edges, to where it comes back, meets no
 * quad, or a face that it has crossed. `null` where that corner's face is no quad.
 */
export function ringAcross(adjacency: Adjacency, edge: number): RingOfQuads | null {
  const { cornerFace, neighbour, against } = adjacency;
  if (!isQuad(adjacency, cornerFace[edge]!)) return null;
  const seen = new Set<number>([cornerFace[edge]!]);
  const first: Crossing = { face: cornerFace[edge]!, in: edge, out: opposite(adjacency, edge), isTurned: false };
  /** The crossing behind an edge; turned where the edge runs the same way on both sides. */
  const over = (corner: number, isTurned: boolean, isAhead: boolean): Crossing | 'closed' | null => {
    const next = neighbour[corner]!;
    if (next < 0) return null;
    const face = cornerFace[next]!;
    if (next === (isAhead ? first.in : first.out)) return 'closed';
    if (seen.has(face) || !isQuad(adjacency, face)) return null;
    seen.add(face);
    const turned = isTurned !== Boolean(against[corner]);
    return isAhead
      ? { face, in: next, out: opposite(adjacency, next), isTurned: turned }
      : { face, in: opposite(adjacency, next), out: next, isTurned: turned };
  };
  const crossings = [first];
  for (let last = first; ;) {
    const next = over(last.out, last.isTurned, true);
    if (next === 'closed') return { crossings, isClosed: true };
    if (!next) break;
    crossings.push((last = next));
  }
  for (let last = first; ;) {
    const next = over(last.in, last.isTurned, false);
    if (next === 'closed' || !next) break;
    crossings.unshift((last = next));
  }
  return { crossings, isClosed: false };
}

/** Shares of an edge, metres long, from the ring's left on. Throws where the edge is too short for it. */
function sharesOn(places: RingPlaces, length: number): number[] {
  switch (places.kind) {
    case 'even':
      return Array.from({ length: places.count }, (_, i) => (i + 1) / (places.count + 1));
    case 'share':
      return [places.share];
    case 'metres': {
      const share = places.metres / length;
      if (!(share <= 1 - leastShare))
        throw new Error(
          `The ring is narrower than ${places.metres} m in places: an edge that would be cut is ${Number(length.toPrecision(3))} m long.`,
        );
      return [places.from === 'left' ? share : 1 - share];
    }
  }
}

/** Along which ring a mesh is cut, by the corner of an edge that the cut crosses, and where. */
export interface RingCut {
  edge: number;
  places: RingPlaces;
}

/** What cuts along rings would do. */
export interface RingCutPlan {
  points: EdgePoints[];
  /** In each face from left to right. */
  cuts: StraightCut[];
}

/**
 * Cuts along rings, of which one that says the same as an earlier one is none. Throws where places make no sense, an edge is too
 * short for them, a ring meets no quad, or two rings cross.
 */
export function planRingCuts(mesh: PolyMesh, adjacency: Adjacency, wanted: readonly RingCut[]): RingCutPlan {
  const points: EdgePoints[] = [];
  const known = new Map<number, { edges: readonly number[]; cuts: StraightCut[] }>();
  for (const { edge, places } of wanted) {
    check(places);
    const ring = ringAcross(adjacency, edge);
    if (!ring) throw new Error('A ring runs through faces of four corners; this one has another number.');
    for (const { face, in: first, out: last, isTurned } of ring.crossings) {
      const own = known.get(face) ?? { edges: [first, last], cuts: [] };
      known.set(face, own);
      if (!own.edges.includes(first))
        throw new Error('The ring and its mirror image cross each other. Cut along one, then along the other.');
      const pointsOn = (corner: number, isFromLeft: boolean): EdgePoints => {
        const shares = sharesOn(places, edgeLength(mesh, adjacency, corner));
        return { corner, shares: isFromLeft ? shares : shares.map((s) => 1 - s) };
      };
      // Of the edge by which a ring goes on the left lies at its other end.
      const [at, on] = [pointsOn(first, !isTurned), pointsOn(last, isTurned)];
      points.push(at, on);
      at.shares.forEach((share, i) => {
        const from = { corner: at.corner, share };
        const to = { corner: on.corner, share: on.shares[i]! };
        if (!own.cuts.some((c) => isSameCut(c, from, to))) own.cuts.push({ face, from, to });
      });
    }
  }
  return { points, cuts: [...known.values()].flatMap((k) => k.cuts) };
}

const isSameCut = (cut: StraightCut, from: OutlinePlace, to: OutlinePlace): boolean =>
  (isSamePlace(cut.from, from) && isSamePlace(cut.to, to)) || (isSamePlace(cut.from, to) && isSamePlace(cut.to, from));

/** The new faces between the cuts of each ring, of a single cut those at its narrower side, ascending. */
export function bandsOf(adjacency: Adjacency, wanted: readonly RingCut[], { pieces }: CutMesh): Uint32Array {
  const bands = wanted.flatMap(({ edge, places }) =>
    ringAcross(adjacency, edge)!.crossings.flatMap(({ face, isTurned }) => {
      const own = [...(pieces.get(face) ?? [])];
      const fromLeft = isTurned ? own.reverse() : own;
      if (fromLeft.length > 2) return fromLeft.slice(1, -1);
      return isNarrowAtLeft(places) ? fromLeft.slice(0, 1) : fromLeft.slice(-1);
    }),
  );
  return Uint32Array.from(new Set(bands)).sort();
}

const isNarrowAtLeft = (places: RingPlaces): boolean =>
  places.kind === 'even' || (places.kind === 'share' ? places.share <= 0.5 : places.from === 'left');

function check(places: RingPlaces): void {
  if (places.kind === 'even' && !(Number.isInteger(places.count) && places.count >= 1 && places.count <= mostRingCuts))
    throw new Error(`A ring is cut 1 to ${mostRingCuts} times at once.`);
  if (places.kind === 'share' && !(places.share >= leastShare && places.share <= 1 - leastShare))
    throw new Error('A cut lies between the two borders of a ring: at a share above 0 and below 1.');
  if (places.kind === 'metres' && !(places.metres > 0 && Number.isFinite(places.metres)))
    throw new Error('A cut lies some metres from a border: at a number above zero.');
}

const isQuad = ({ faceStart }: Adjacency, face: number): boolean => faceStart[face + 1]! - faceStart[face]! === 4;
const opposite = (adjacency: Adjacency, corner: number): number => nextCorner(adjacency, nextCorner(adjacency, corner));
