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

/** Lines between two pieces are dropped where what is left is convex; what has no area comes to a neighbour. */
function merged(triangles: readonly number[][], points: readonly Flat[]): number[][] {
  const pieces = new Pieces(triangles, points.length);
  const areaOf = (piece: readonly number[]) => signedArea(piece.map((i) => points[i]!));
  const least = 1e-9 * triangles.reduce((most, t) => Math.max(most, areaOf(t)), 0);
  const isFlat = (piece: readonly number[]) => areaOf(piece) <= least;
  const length = (a: number, b: number) => Math.hypot(points[a]![0] - points[b]![0], points[a]![1] - points[b]![1]);
  // Corners on a line make no face: they come to what lies beyond the longest side that has a face.
  const flat = triangles.filter(isFlat);
  for (let tries = 0; tries < flat.length * 2; tries++) {
    const piece = pieces.all().find(isFlat);
    if (!piece) break;
    const sides = piece.map((a, i) => [a, piece[(i + 1) % piece.length]!] as const).sort((p, q) => length(...q) - length(...p));
    const ways = sides.map(([a, b]) => pieces.joined(a, b)).filter((f) => f !== null);
    const found = ways.find((f) => !isFlat(f)) ?? ways[0];
    if (!found) break;
    pieces.take(found);
  }
  const isConvexAt = (piece: readonly number[], i: number) => {
    const k = piece.indexOf(i);
    return turn(points[piece.at(k - 1)!]!, points[i]!, points[piece[(k + 1) % piece.length]!]!) >= -least;
  };
  // Angles only grow, so that each line need be tried but once.
  for (const [a, b, c] of triangles)
    for (const [p, q] of [
      [a!, b!],
      [b!, c!],
      [c!, a!],
    ] as const) {
      const found = p < q ? pieces.joined(p, q) : null;
      if (found && isConvexAt(found, p) && isConvexAt(found, q)) pieces.take(found);
    }
  return pieces.all();
}

/** Pieces by their edges, each of which runs one way in one piece and the other way in its neighbour. */
class Pieces {
  private readonly byEdge = new Map<number, number[]>();

  constructor(
    triangles: readonly number[][],
    private readonly count: number,
  ) {
    for (const t of triangles) this.take(t);
  }

  all(): number[][] {
    return [...new Set(this.byEdge.values())];
  }

  /** What the two pieces at an edge are together; `null` where there are not two, or they touch elsewhere, too. */
  joined(a: number, b: number): number[] | null {
    const [own, other] = [this.byEdge.get(a * this.count + b), this.byEdge.get(b * this.count + a)];
    if (!own || !other || own === other) return null;
    const rest = rotated(other, other.indexOf(a)).slice(1, -1);
    const at = own.indexOf(a);
    const whole = [...own.slice(0, at + 1), ...rest, ...own.slice(at + 1)];
    return new Set(whole).size === whole.length ? whole : null;
  }

  /** Takes the place of what has its edges; the line between two that are joined is no edge any more. */
  take(piece: number[]): void {
    const before = new Set(piece.map((a, i) => this.byEdge.get(a * this.count + piece[(i + 1) % piece.length]!)));
    for (const old of before) old?.forEach((a, i) => this.byEdge.delete(a * this.count + old[(i + 1) % old.length]!));
    piece.forEach((a, i) => this.byEdge.set(a * this.count + piece[(i + 1) % piece.length]!, piece));
  }
}

const rotated = (list: readonly number[], by: number): number[] => [...list.slice(by), ...list.slice(0, by)];
