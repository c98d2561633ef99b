import { nextCorner, type Adjacency } from '../mesh/adjacency';
import {
  isInside,
  isSamePlace,
  isWithin,
  leastShare,
  turn,
  type FaceCut,
  type FacePlace,
  type Flat,
  type InsidePoint,
  type OutlinePlace,
} from './facePlaces';
import { insidePoint } from './insidePoint';
import { apart, apartFromLine, boundsOf } from './stampOutlines';

/** A place at which a line is in a face or meets its outline, and how far along the line that is. */
interface Met {
  place: FacePlace;
  along: number;
}

/** A face under a stamp, in its plane. `slack`: metres within which a point lies on a line. */
export class FaceUnder {
  private readonly start: number;
  private readonly bounds: readonly (readonly [number, number])[];

  constructor(
    private readonly adjacency: Adjacency,
    private readonly face: number,
    private readonly outline: readonly Flat[],
    private readonly slack: number,
  ) {
    this.bounds = boundsOf(outline);
    this.start = adjacency.faceStart[face]!;
  }

  /** Whether what is around two points meets what is around the face; most lines lie far from most faces. */
  private isNear(p: Flat, q: Flat): boolean {
    return this.bounds.every(([low, high], k) => Math.min(p[k]!, q[k]!) <= high + this.slack && Math.max(p[k]!, q[k]!) >= low - this.slack);
  }

  /** The ways of a closed line through the face. */
  cuts(line: readonly Flat[]): FaceCut[] {
    const corners = line.map((p) => (this.isNear(p, p) ? this.placeOf(p) : null));
    const ways: FacePlace[][] = [];
    line.forEach((a, i) => {
      const next = (i + 1) % line.length;
      if (!this.isNear(a, line[next]!)) return;
      for (const [from, to] of this.stretches(a, line[next]!, corners[i]!, corners[next]!)) {
        const last = ways.at(-1);
        if (last && isInside(from) && last.at(-1) === from) last.push(to);
        else ways.push([from, to]);
      }
    });
    // On from where the line began.
    const [first, last] = [ways[0], ways.at(-1)];
    if (first && last && first !== last && isInside(first[0]!) && last.at(-1) === first[0]) {
      last.push(...first.slice(1));
      ways.shift();
    }
    return ways.map((way) => ({ face: this.face, from: way[0]!, to: way.at(-1)!, via: way.slice(1, -1) as InsidePoint[] }));
  }

  /** Where a corner of a line lies: on the outline, or inside; `null` outside. */
  private placeOf(p: Flat): FacePlace | null {
    for (let i = 0; i < this.outline.length; i++) if (apart(this.outline[i]!, p) <= this.slack) return { corner: this.start + i, share: 0 };
    for (let i = 0; i < this.outline.length; i++) {
      const place = this.onEdge(i, (a, b) => {
        const square = (b[0] - a[0]) ** 2 + (b[1] - a[1]) ** 2;
        const share = ((p[0] - a[0]) * (b[0] - a[0]) + (p[1] - a[1]) * (b[1] - a[1])) / square;
        return Math.abs(turn(a, b, p)) <= this.slack * Math.sqrt(square) ? share : -1;
      });
      if (place) return place;
    }
    return insidePoint(this.adjacency, this.face, this.outline, p);
  }

  /** The place at a share of an edge, reckoned from its lower point on so that both faces at it agree; `null` beside it. */
  private onEdge(i: number, shareOf: (low: Flat, high: Flat) => number): OutlinePlace | null {
    const corner = this.start + i;
    const next = nextCorner(this.adjacency, corner);
    const [a, b] = [this.outline[i]!, this.outline[next - this.start]!];
    const isUp = this.adjacency.cornerPoint[corner]! < this.adjacency.cornerPoint[next]!;
    const low = isUp ? shareOf(a, b) : shareOf(b, a);
    if (!(low >= 0 && low <= 1)) return null;
    if (low < leastShare) return { corner: isUp ? corner : next, share: 0 };
    if (low > 1 - leastShare) return { corner: isUp ? next : corner, share: 0 };
    return { corner, share: isUp ? low : 1 - low };
  }

  /** The stretches of a line from `a` to `b` that lie inside the face, in their order. */
  private stretches(a: Flat, b: Flat, from: FacePlace | null, to: FacePlace | null): (readonly [FacePlace, FacePlace])[] {
    const length = apart(a, b);
    const met: Met[] = [];
    const put = (place: FacePlace | null, along: number) => {
      if (place && !met.some((m) => isSamePlace(m.place, place))) met.push({ place, along });
    };
    put(from, 0);
    put(to, 1);
    const along = (p: Flat) => ((p[0] - a[0]) * (b[0] - a[0]) + (p[1] - a[1]) * (b[1] - a[1])) / length ** 2;
    const beside = this.outline.map((p) => turn(a, b, p) / length);
    this.outline.forEach((p, i) => {
      const t = along(p);
      if (Math.abs(beside[i]!) <= this.slack && t > 0 && t < 1) put({ corner: this.start + i, share: 0 }, t);
    });
    this.outline.forEach((p, i) => {
      const k = nextCorner(this.adjacency, this.start + i) - this.start;
      const [s, e] = [beside[i]!, beside[k]!];
      if (Math.abs(s) <= this.slack || Math.abs(e) <= this.slack || s * e > 0) return;
      const q = this.outline[k]!;
      const share = s / (s - e);
      const t = along([p[0] + (q[0] - p[0]) * share, p[1] + (q[1] - p[1]) * share]);
      if (t * length <= this.slack || (1 - t) * length <= this.slack) return;
      put(
        this.onEdge(i, (low, high) => turn(a, b, low) / (turn(a, b, low) - turn(a, b, high))),
        t,
      );
    });
    met.sort((p, q) => p.along - q.along);
    return met.slice(1).flatMap((q, i) => {
      const p = met[i]!;
      const middle = (p.along + q.along) / 2;
      const at: Flat = [a[0] + (b[0] - a[0]) * middle, a[1] + (b[1] - a[1]) * middle];
      return this.isFree(at) ? [[p.place, q.place] as const] : [];
    });
  }

  /** Whether a point lies inside, and on no edge. */
  private isFree(p: Flat): boolean {
    if (!isWithin(this.outline, p)) return false;
    return this.outline.every((a, i) => apartFromLine(p, a, this.outline[(i + 1) % this.outline.length]!) > this.slack);
  }
}
