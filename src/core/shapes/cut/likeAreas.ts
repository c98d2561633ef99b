import { nextCorner, type Adjacency } from '../mesh/adjacency';
import type { PolyMesh } from '../mesh/polyMesh';
import { borderOf } from '../pick/edges';
import { floodWhere } from '../pick/floods';
import { cornerPoint, type Flat } from './facePlaces';
import { flatIn, type StampFrame } from './stampCut';
import { apartFromLine, boundsOf } from './stampOutlines';
import { frameOn, inMiddleOf } from './stampFrame';

/** Touching faces of one cell that are flat together, and their plane, its middle in theirs. */
export interface FlatArea {
  faces: Uint32Array;
  frame: StampFrame;
}

/** What faces hang together by: the cell of each, and by how many degrees they may lean away from the one that is meant. */
export interface FlatBy {
  cells: Uint16Array;
  angle: number;
}

/** Share of an area's size by which the outlines of like ones may differ. */
const likeWithin = 0.01;

function floodArea(adjacency: Adjacency, face: number, { cells, angle }: FlatBy): Uint32Array {
  const { normals } = adjacency;
  const least = Math.cos((angle * Math.PI) / 180) - 1e-6;
  return floodWhere(adjacency, face, Infinity, (_, g) => {
    const dot = [0, 1, 2].reduce((sum, k) => sum + normals[face * 3 + k]! * normals[g * 3 + k]!, 0);
    return cells[g] === cells[face] && dot >= least;
  })!;
}

/** All flat areas of a mesh, kept while nothing is colored. */
const known = new WeakMap<Adjacency, FlatBy & { areas: Uint32Array[] }>();
function flatAreas(adjacency: Adjacency, by: FlatBy): Uint32Array[] {
  const found = known.get(adjacency);
  if (found?.angle === by.angle && found.cells.every((c, f) => c === by.cells[f])) return found.areas;
  const isTaken = new Uint8Array(adjacency.part.length);
  const areas: Uint32Array[] = [];
  for (let f = 0; f < isTaken.length; f++) {
    if (isTaken[f]) continue;
    const faces = floodArea(adjacency, f, by).filter((g) => !isTaken[g]);
    for (const g of faces) isTaken[g] = 1;
    areas.push(faces);
  }
  known.set(adjacency, { angle: by.angle, cells: by.cells.slice(), areas });
  return areas;
}

export const areaAt = (mesh: PolyMesh, adjacency: Adjacency, face: number, by: FlatBy): FlatArea =>
  areaOf(mesh, adjacency, floodArea(adjacency, face, by));

function areaOf(mesh: PolyMesh, adjacency: Adjacency, faces: Uint32Array): FlatArea {
  const first = faces[0]!;
  return { faces, frame: inMiddleOf(mesh, faces, frameOn(adjacency, first, cornerPoint(mesh, mesh.faceStart[first]!))) };
}

/**
 * The flat areas of a mesh whose outline is that of the area at a face, whichever way they look, the one at the face first: both as
 * they are seen from the front, upright.
 */
export function likeAreas(mesh: PolyMesh, adjacency: Adjacency, face: number, by: FlatBy): FlatArea[] {
  const own = areaAt(mesh, adjacency, face, by);
  const size = squareMetres(adjacency, own.faces);
  const outline = new Outline(mesh, adjacency, own);
  const isOwn = new Set(own.faces);
  const others = flatAreas(adjacency, by)
    .filter((faces) => !isOwn.has(faces[0]!) && Math.abs(squareMetres(adjacency, faces) - size) <= size * likeWithin * 4)
    .map((faces) => areaOf(mesh, adjacency, faces))
    .filter((area) => outline.isLike(new Outline(mesh, adjacency, area)));
  return [own, ...others];
}

const squareMetres = ({ areas }: Adjacency, faces: Uint32Array): number => faces.reduce((sum, f) => sum + areas[f]!, 0);

/** The outline of an area, around its middle. */
class Outline {
  private readonly lines: (readonly [Flat, Flat])[];

  constructor(mesh: PolyMesh, adjacency: Adjacency, { faces, frame }: FlatArea) {
    const flags = new Uint8Array(adjacency.part.length);
    for (const f of faces) flags[f] = 1;
    const flat = flatIn(frame);
    this.lines = Array.from(borderOf(adjacency, flags), (c) => [
      flat(cornerPoint(mesh, c)),
      flat(cornerPoint(mesh, nextCorner(adjacency, c))),
    ]);
  }

  isLike(other: Outline): boolean {
    const [own, its] = [this, other].map(({ lines }) => boundsOf(lines.flat())) as [Bounds, Bounds];
    const within = likeWithin * Math.max(...own.map(([low, high]) => high - low));
    if (own.some((b, k) => b.some((n, i) => Math.abs(n - its[k]![i]!) > within))) return false;
    return this.liesOn(other, within) && other.liesOn(this, within);
  }

  private liesOn(other: Outline, within: number): boolean {
    return this.lines.every((line) => line.every((p) => other.lines.some(([a, b]) => apartFromLine(p, a, b) <= within)));
  }
}
type Bounds = ReturnType<typeof boundsOf>;
