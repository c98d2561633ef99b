import { edgeLength, nextCorner, type Adjacency } from '../mesh/adjacency';
import type { PolyMesh } from '../mesh/polyMesh';
import { pickedOver, pointAtAngle, type BorderCorner } from './borderFans';
import { flattener, pointOf, signedArea, turn, type FaceCut, type FacePlace, type Flat, type InsidePoint } from './facePlaces';
import { flatOutline, insidePoint } from './insidePoint';

/** Two angles are one, radians. */
const sameAngle = 1e-3;
/** Beyond this a mitre is no longer drawn out. */
const bluntest = (150 * Math.PI) / 180;
/** Share of an edge that stays free beside and between its points. */
const leastFree = 1e-3;

/** How many widths from its corner a line beside the outline lies at an angle. */
function reach(angle: number, whole: number): number {
  return 1 / Math.sin(Math.min(angle, whole - angle, bluntest));
}

/** Where a line enters a face at an outline's corner, turns, and leaves it. */
interface Bend {
  at: BorderCorner;
  /** The place on the edge that ends at the corner; none where that is the outline's. */
  enters: FacePlace | null;
  mitre: InsidePoint | null;
  leaves: FacePlace | null;
}

/** A picked face with corners on the outline, and the lines that run through it. */
export class BorderFace {
  private readonly flat: (p: readonly [number, number, number]) => Flat;
  private readonly outline: Flat[];
  /** Corners in a row whose edges between them are the outline's. */
  private readonly runs: BorderCorner[][];
  /** All edges are the outline's, so that lines run around. */
  private readonly isAlone: boolean;

  constructor(
    private readonly mesh: PolyMesh,
    private readonly adjacency: Adjacency,
    private readonly face: number,
    picked: Uint16Array,
    fans: ReadonlyMap<number, BorderCorner>,
  ) {
    this.flat = flattener(adjacency, face);
    this.outline = flatOutline(mesh, face, this.flat);
    const corners = Array.from(this.outline, (_, i) => adjacency.faceStart[face]! + i);
    const isOpen = corners.map((c) => pickedOver(adjacency, picked, c) < 0);
    this.isAlone = isOpen.every(Boolean);
    // Begun where a run cannot have begun before.
    const start = this.isAlone ? 0 : isOpen.indexOf(false) + 1;
    this.runs = [];
    corners.forEach((_, i) => {
      const k = (start + i) % corners.length;
      const corner = fans.get(corners[k]!);
      if (!corner) return;
      const isOn = i > 0 && isOpen[(k + corners.length - 1) % corners.length]!;
      if (isOn) this.runs.at(-1)!.push(corner);
      else this.runs.push([corner]);
    });
  }

  /** Whether a line so many metres inside stays in the face, on its way, and apart from itself. */
  fits(metres: number): boolean {
    const onEdges = new Map<number, number>();
    const lines: Flat[][] = [];
    for (const run of this.runs) {
      const line: Flat[] = [];
      for (const [i, corner] of run.entries()) {
        for (const edge of [corner.previous, corner.corner]) {
          const share = this.shareOf(corner, edge, metres);
          if (share !== null) onEdges.set(edge, (onEdges.get(edge) ?? 0) + share);
        }
        const bend = this.bend(corner, metres);
        if (!bend) return false;
        const own = [bend.enters, bend.mitre, bend.leaves]
          .filter((p) => p !== null)
          .map((p) => this.flat(pointOf(this.mesh, this.adjacency, p)));
        // Beside an edge of the outline a line runs the way of that edge.
        if (i > 0 && line.length && own.length && !this.isOnWay(run[i - 1]!.corner, line.at(-1)!, own[0]!)) return false;
        line.push(...own);
      }
      if (this.isAlone && line.length && !this.isOnWay(run.at(-1)!.corner, line.at(-1)!, line[0]!)) return false;
      lines.push(this.isAlone ? [...line, line[0]!] : line);
    }
    if ([...onEdges.values()].some((sum) => sum > 1 - 2 * leastFree)) return false;
    const segments = lines.flatMap((line) => line.slice(1).map((p, i) => [line[i]!, p] as const));
    const slack = Math.abs(signedArea(this.outline)) * 1e-9;
    const edges = this.outline.map((p, i) => [p, this.outline[(i + 1) % this.outline.length]!] as const);
    return segments.every((s, i) => [...segments.slice(i + 1), ...edges].every((other) => !crosses(s, other, slack)));
  }

  /** The cuts of lines so many metres apart; adds where each runs. */
  cuts(metres: number, times: number, lines: FacePlace[][]): FaceCut[] {
    const { face } = this;
    return this.runs.flatMap((run) => {
      const byLine = Array.from({ length: times }, (_, n) => run.map((corner) => this.bend(corner, metres * (n + 1))!));
      const ways = byLine.map((bends) => bends.flatMap((b) => [b.enters, b.mitre, b.leaves].filter((p) => p !== null)));
      ways.forEach((way, n) => lines[n]!.push(...way));
      const along = ways.flatMap((way): FaceCut[] => {
        if (way.length < 2) return [];
        if (this.isAlone) return [{ face, from: way[0]!, to: way[0]!, via: way.slice(1) as InsidePoint[] }];
        return [{ face, from: way[0]!, to: way.at(-1)!, via: way.slice(1, -1) as InsidePoint[] }];
      });
      // From each mitre out to the one before, and to the corner.
      const out = byLine.flatMap((bends, n) =>
        bends.flatMap(({ at, mitre }, i): FaceCut[] => {
          if (!mitre) return [];
          return [{ face, from: n ? byLine[n - 1]![i]!.mitre! : { corner: at.corner, share: 0 }, to: mitre }];
        }),
      );
      return [...along, ...out];
    });
  }

  /** `null` where the line has no place at the corner. */
  private bend(at: BorderCorner, metres: number): Bend | null {
    const half = at.whole / 2;
    const isOnEdge = half < at.before + sameAngle || half > at.before + at.own - sameAngle;
    const isStraight = Math.abs(at.whole - Math.PI) < sameAngle;
    let mitre: InsidePoint | null = null;
    if (!isOnEdge && !isStraight) {
      const point = pointAtAngle(this.mesh, this.adjacency, at.corner, half - at.before, metres * reach(half, at.whole));
      mitre = insidePoint(this.adjacency, this.face, this.outline, this.flat(point));
      if (!mitre) return null;
    }
    const place = (edge: number): FacePlace | null => {
      const share = this.shareOf(at, edge, metres);
      return share === null ? null : { corner: edge, share: edge === at.corner ? share : 1 - share };
    };
    return { at, enters: place(at.previous), mitre, leaves: place(at.corner) };
  }

  /** How far from the corner a line crosses one of its edges, as a share of that; `null` where it is the outline's. */
  private shareOf(at: BorderCorner, edge: number, metres: number): number | null {
    const angle = edge === at.corner ? at.before : at.before + at.own;
    if (angle <= 0 || angle >= at.whole) return null;
    return (metres * reach(angle, at.whole)) / edgeLength(this.mesh, this.adjacency, edge);
  }

  private isOnWay(edge: number, from: Flat, to: Flat): boolean {
    const start = this.adjacency.faceStart[this.face]!;
    const [a, b] = [this.outline[edge - start]!, this.outline[nextCorner(this.adjacency, edge) - start]!];
    return (to[0] - from[0]) * (b[0] - a[0]) + (to[1] - from[1]) * (b[1] - a[1]) > 0;
  }
}

type Segment = readonly [Flat, Flat];
/** `slack`: twice the area within which a point lies on a line. */
function crosses([a, b]: Segment, [c, d]: Segment, slack: number): boolean {
  const isParted = (p: number, q: number) => (p > slack && q < -slack) || (p < -slack && q > slack);
  return isParted(turn(a, b, c), turn(a, b, d)) && isParted(turn(c, d, a), turn(c, d, b));
}
