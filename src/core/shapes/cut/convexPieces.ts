import cdt2d from 'cdt2d';
import { signedArea, turn, type Flat } from './facePlaces';

/**
 * What lies between closed lines as few convex pieces; each a list of indices into the points, counter-clockwise. `loops`: the points
 * of each line in their order; a line that runs there and back over the same points is none. Method: constrained Delaunay triangles
 * by exact predicates (cdt2d), of which lines are dropped that leave a convex piece (Hertel and Mehlhorn, 1983: at most four times
 * as many pieces as are needed). Throws where lines cross each other.
 */
export function convexPieces(points: readonly Flat[], loops: readonly (readonly number[])[]): number[][] {
  const edges = new Map<string, [number, number]>();
  for (const loop of loops)
    loop.forEach((a, i) => {
      const b = loop[(i + 1) % loop.length]!;
      // There and back parts nothing.
      if (!edges.delete(`${b} ${a}`)) edges.set(`${a} ${b}`, [a, b]);
    });
  const found = cdt2d(points, [...edges.values()], { exterior: false });
  const signed = (piece: readonly number[]) => signedArea(piece.map((i) => points[i]!));
  const covered = found.reduce((sum, t) => sum + signed(t), 0);
  // All wound alike, also those without area, of which nothing else could tell it.
  const triangles = covered < 0 ? found.map((t) => t.toReversed()) : found;
  const area = loops.reduce((sum, loop) => sum + signed(loop), 0);
  if (Math.abs(Math.abs(covered) - Math.abs(area)) > 1e-6 * Math.abs(area))
    throw new Error('Lines that would be cut cross each other here.');
  return merged(triangles, points);
}

/** Lines between two pieces are dropped where what is left is convex. */
function merged(triangles: readonly number[][], points: readonly Flat[]): number[][] {
  const pieces: (readonly number[] | null)[] = [...triangles];
  const isConvexAt = (piece: readonly number[], i: number) => {
    const at = (k: number) => points[piece[(k + piece.length) % piece.length]!]!;
    return turn(at(i - 1), at(i), at(i + 1)) > 0;
  };
  /** What a piece and its neighbour over one of its edges are together, and how many corners came in behind that edge's first. */
  const joined = (piece: readonly number[], edge: number) => {
    const [a, b] = [piece[edge]!, piece[(edge + 1) % piece.length]!];
    const other = pieces.findIndex((q) => q !== null && q !== piece && follows(q, b, a));
    if (other < 0) return null;
    const rest = rotated(pieces[other]!, pieces[other]!.indexOf(a)).slice(1, -1);
    const whole = [...piece.slice(0, edge + 1), ...rest, ...piece.slice(edge + 1)];
    return new Set(whole).size === whole.length ? { whole, other, more: rest.length } : null;
  };
  const take = (p: number, { whole, other }: { whole: readonly number[]; other: number }) => {
    pieces[p] = whole;
    pieces[other] = null;
  };
  // Corners on a line make no face: they come to what lies beyond the longest side that has a face.
  const areaOf = (piece: readonly number[]) => signedArea(piece.map((i) => points[i]!));
  const least = 1e-9 * Math.max(...triangles.map(areaOf));
  const isFlat = (piece: readonly number[] | null) => piece !== null && areaOf(piece) <= least;
  for (let p = pieces.findIndex(isFlat), tries = 0; p >= 0 && tries < triangles.length; p = pieces.findIndex(isFlat), tries++) {
    const piece = pieces[p]!;
    const length = (i: number) => Math.hypot(...[0, 1].map((k) => points[piece[i]!]![k]! - points[piece[(i + 1) % piece.length]!]![k]!));
    const sides = [...piece.keys()].sort((a, b) => length(b) - length(a));
    const ways = sides.map((i) => joined(piece, i)).filter((f) => f !== null);
    const found = ways.find((f) => !isFlat(f.whole)) ?? ways[0];
    if (!found) break;
    take(p, found);
  }
  for (let isDone = false; !isDone;) {
    isDone = true;
    for (const [p, piece] of pieces.entries()) {
      for (let edge = 0; piece && edge < piece.length && isDone; edge++) {
        const found = joined(piece, edge);
        // Where the dropped line ended.
        if (!found || !isConvexAt(found.whole, edge) || !isConvexAt(found.whole, edge + 1 + found.more)) continue;
        take(p, found);
        isDone = false;
      }
    }
  }
  return pieces.filter((p) => p !== null).map((p) => [...p]);
}

const rotated = (list: readonly number[], by: number): number[] => [...list.slice(by), ...list.slice(0, by)];
const follows = (piece: readonly number[], a: number, b: number): boolean => {
  const i = piece.indexOf(a);
  return i >= 0 && piece[(i + 1) % piece.length] === b;
};
