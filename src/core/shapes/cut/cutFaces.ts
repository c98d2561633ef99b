import { nextCorner, type Adjacency } from '../mesh/adjacency';
import { cornerRun } from '../mesh/faceOrigins';
import { faceCount, type PolyMesh } from '../mesh/polyMesh';
import type { Repaired } from '../check/repaired';
import {
  flattener,
  isInside,
  leastShare,
  pointOf,
  type EdgePoints,
  type FaceCut,
  type FacePlace,
  type InsidePoint,
  type OutlinePlace,
} from './facePlaces';
import { mixedCorners } from './mixedCorners';
import { partedFace, type Spot } from './partedFace';

export interface CutMesh extends Repaired {
  /** Of each face that was cut its pieces, as faces of the new mesh: a cut parts what lies before it along the outline from what lies behind. */
  pieces: Map<number, Uint32Array>;
  /** The vertex at a place of a cut. */
  vertexAt: (place: FacePlace) => number;
}

/** Shares are whole numbers of this, so that they are exact from either end. */
const step = 2 ** -24;
const exact = (share: number): number => Math.round(share / step) * step;

/**
 * A mesh with new points on edges, and with faces cut between places of their outlines and points inside. Every face that has such an edge gets
 * the point, so that no corner ever meets the middle of an edge; what belongs to corners is mixed along the edge. Pieces take
 * the place of their face, in its order. Throws as `partedFace` does.
 */
export function cutFaces(mesh: PolyMesh, adjacency: Adjacency, points: readonly EdgePoints[], cuts: readonly FaceCut[]): CutMesh {
  const edges = new NewPoints(mesh, adjacency, points);
  const cutsOf = new Map<number, FaceCut[]>();
  for (const cut of cuts) cutsOf.set(cut.face, [...(cutsOf.get(cut.face) ?? []), cut]);
  const partsByFace = new Map<number, Pick<Spot, 'place' | 'vertex'>[][]>();
  for (let f = 0; f < faceCount(mesh); f++) {
    const cutsHere = cutsOf.get(f);
    const outline = edges.outlineOf(f, cutsHere !== undefined);
    if (!outline) continue;
    if (!cutsHere) partsByFace.set(f, [outline]);
    else {
      const flat = flattener(adjacency, f);
      const spots = outline.map((on) => ({ ...on, at: flat(pointOf(mesh, adjacency, on.place)) }));
      partsByFace.set(
        f,
        partedFace(spots, cutsHere, (point) => edges.inside(point, flat)),
      );
    }
  }
  const made = [...partsByFace.values()].flat();
  const faces = faceCount(mesh) - partsByFace.size + made.length;
  const kept = [...partsByFace.keys()].reduce((sum, f) => sum - sizeOf(mesh, f), mesh.cornerVertex.length);
  const corners = made.reduce((sum, part) => sum + part.length, kept);
  const [faceStart, from, order] = [new Uint32Array(faces + 1), new Int32Array(faces), new Int8Array(faces)];
  // Of each corner the one that it was, or begins at, and how far along that one's edge it lies.
  const [corner, share, vertex] = [new Uint32Array(corners), new Float32Array(corners), new Uint32Array(corners)];
  const across = edges.hasInside()
    ? { corner: new Uint32Array(corners), share: new Float32Array(corners), part: new Float32Array(corners) }
    : null;
  const pieces = new Map<number, Uint32Array>();
  let [face, at] = [0, 0];
  for (let f = 0; f < faceCount(mesh); f++) {
    const parts = partsByFace.get(f);
    if (!parts) {
      for (let c = mesh.faceStart[f]!; c < mesh.faceStart[f + 1]!; c++, at++) {
        corner[at] = c;
        vertex[at] = mesh.cornerVertex[c]!;
      }
      from[face] = f;
      order[face] = cornerRun.same;
      faceStart[++face] = at;
      continue;
    }
    if (parts.length > 1)
      pieces.set(
        f,
        Uint32Array.from(parts, (_, i) => face + i),
      );
    for (const part of parts) {
      for (const { place, vertex: own } of part) {
        const first = isInside(place) ? place.from : place;
        corner[at] = first.corner;
        share[at] = first.share;
        if (across && isInside(place)) {
          across.corner[at] = place.to.corner;
          across.share[at] = place.to.share;
          across.part[at] = place.share;
        }
        vertex[at++] = own;
      }
      from[face] = f;
      order[face] = cornerRun.byPlace;
      faceStart[++face] = at;
    }
  }
  const origins = { from, order, corners: { corner, share, ...(across && { across }) } };
  return {
    mesh: {
      ...mixedCorners(mesh, adjacency, { ...origins, ...origins.corners }),
      positions: edges.positions(),
      faceStart,
      cornerVertex: vertex,
    },
    origins,
    changed: pieces.size,
    pieces,
    vertexAt: (place) => edges.vertexAt(place),
  };
}

const sizeOf = ({ faceStart }: PolyMesh, face: number): number => faceStart[face + 1]! - faceStart[face]!;

interface OnOutline {
  place: OutlinePlace;
  vertex: number;
}

/** The points that come onto edges, one for all faces that have the edge, and those inside of faces. */
class NewPoints {
  private readonly isTouched: Uint8Array;
  /** By an edge's two points, the lower one first: shares from that one on, ascending, and the vertices there. */
  private readonly known = new Map<number, { shares: number[]; vertices: number[] }>();
  private readonly added: number[] = [];
  private readonly insides = new Map<InsidePoint, Spot>();

  constructor(
    private readonly mesh: PolyMesh,
    private readonly adjacency: Adjacency,
    points: readonly EdgePoints[],
  ) {
    this.isTouched = new Uint8Array(adjacency.pointCount);
    const wanted = new Map<number, { corner: number; shares: number[] }>();
    for (const { corner, shares } of points) {
      const [p, q] = this.endsOf(corner);
      if (p === q) continue;
      const own = shares.filter((s) => s >= leastShare && s <= 1 - leastShare).map((s) => (p < q ? exact(s) : 1 - exact(s)));
      const entry = wanted.get(this.keyOf(p, q)) ?? { corner, shares: [] };
      entry.shares.push(...own);
      wanted.set(this.keyOf(p, q), entry);
      this.isTouched[p] = this.isTouched[q] = 1;
    }
    for (const [key, { corner, shares }] of wanted) {
      const apart = shares.sort((a, b) => a - b).filter((s, i) => i === 0 || s - shares[i - 1]! >= leastShare);
      this.known.set(key, { shares: apart, vertices: apart.map((s) => this.add(corner, s)) });
    }
  }

  /** A face's outline with the new points on it; `null` where it has none and need not be told all the same. */
  outlineOf(face: number, isNeeded: boolean): OnOutline[] | null {
    const { faceStart, cornerVertex } = this.mesh;
    if (!isNeeded && !this.hasTouchedEdge(face)) return null;
    let isPlain = !isNeeded;
    for (let c = faceStart[face]!; c < faceStart[face + 1]! && isPlain; c++) isPlain = !this.onEdge(c);
    if (isPlain) return null;
    const out: OnOutline[] = [];
    for (let c = faceStart[face]!; c < faceStart[face + 1]!; c++) {
      out.push({ place: { corner: c, share: 0 }, vertex: cornerVertex[c]! });
      const found = this.onEdge(c);
      if (!found) continue;
      const [p, q] = this.endsOf(c);
      const along = found.shares.map((s, i) => ({ place: { corner: c, share: p < q ? s : 1 - s }, vertex: found.vertices[i]! }));
      out.push(...(p < q ? along : along.reverse()));
    }
    return out;
  }

  /** Told in a moment of nearly every face. */
  private hasTouchedEdge(face: number): boolean {
    const { faceStart } = this.mesh;
    let touched = 0;
    for (let c = faceStart[face]!; c < faceStart[face + 1]!; c++) touched += this.isTouched[this.adjacency.cornerPoint[c]!]!;
    return touched > 1;
  }

  /** A point inside a face, the same however often it is asked for. */
  inside(point: InsidePoint, flat: ReturnType<typeof flattener>): Spot {
    const known = this.insides.get(point);
    if (known) return known;
    const place = pointOf(this.mesh, this.adjacency, point);
    this.added.push(...place);
    const spot = { place: point, vertex: (this.mesh.positions.length + this.added.length) / 3 - 1, at: flat(place) };
    this.insides.set(point, spot);
    return spot;
  }

  vertexAt(place: FacePlace): number {
    if (isInside(place)) return this.insides.get(place)!.vertex;
    if (!place.share) return this.mesh.cornerVertex[place.corner]!;
    const [p, q] = this.endsOf(place.corner);
    const { shares, vertices } = this.known.get(this.keyOf(p, q))!;
    const own = p < q ? place.share : 1 - place.share;
    return vertices[shares.reduce((best, s, i) => (Math.abs(s - own) < Math.abs(shares[best]! - own) ? i : best), 0)]!;
  }

  hasInside(): boolean {
    return this.insides.size > 0;
  }

  positions(): Float32Array {
    const out = new Float32Array(this.mesh.positions.length + this.added.length);
    out.set(this.mesh.positions);
    out.set(this.added, this.mesh.positions.length);
    return out;
  }

  private onEdge(corner: number) {
    const [p, q] = this.endsOf(corner);
    return this.isTouched[p] && this.isTouched[q] ? this.known.get(this.keyOf(p, q)) : undefined;
  }

  private endsOf(corner: number): [number, number] {
    const { cornerPoint } = this.adjacency;
    return [cornerPoint[corner]!, cornerPoint[nextCorner(this.adjacency, corner)]!];
  }

  private keyOf(p: number, q: number): number {
    return Math.min(p, q) * this.adjacency.pointCount + Math.max(p, q);
  }

  /** A vertex at a share of an edge from its lower point on. */
  private add(corner: number, share: number): number {
    const { positions, cornerVertex } = this.mesh;
    const [p, q] = this.endsOf(corner);
    const ends = [corner, nextCorner(this.adjacency, corner)].map((c) => cornerVertex[c]! * 3) as [number, number];
    const [a, b] = p < q ? ends : [ends[1], ends[0]];
    for (let k = 0; k < 3; k++) this.added.push(positions[a + k]! + (positions[b + k]! - positions[a + k]!) * share);
    return (positions.length + this.added.length) / 3 - 1;
  }
}
