import { nextCorner, type Adjacency } from '../mesh/adjacency';
import type { PolyMesh } from '../mesh/polyMesh';
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

function floodArea(
  { normals }: Adjacency,
  face: number,
  { cells, angle }: FlatBy,
  flood: (mayCross: (g: number) => boolean) => Uint32Array,
): Uint32Array {
  const least = Math.cos((angle * Math.PI) / 180) - 1e-6;
  const [x, y, z] = [normals[face * 3]!, normals[face * 3 + 1]!, normals[face * 3 + 2]!];
  const cell = cells[face];
  return flood((g) => cells[g] === cell && x * normals[g * 3]! + y * normals[g * 3 + 1]! + z * normals[g * 3 + 2]! >= least);
}

/** All flat areas of a mesh: their faces, which one each face is in, and how large they are. */
interface Areas {
  faces: Uint32Array[];
  of: Int32Array;
  squareMetres: Float64Array;
}

/** Kept while nothing is colored. */
const known = new WeakMap<Adjacency, FlatBy & { areas: Areas }>();
function flatAreas(adjacency: Adjacency, by: FlatBy): Areas {
  const found = known.get(adjacency);
  if (found?.angle === by.angle && found.cells.every((c, f) => c === by.cells[f])) return found.areas;
  const of = new Int32Array(adjacency.part.length).fill(-1);
  const faces: Uint32Array[] = [];
  for (let f = 0; f < of.length; f++) {
    if (of[f]! >= 0) continue;
    const own = floodArea(adjacency, f, by, (may) => floodWhere(adjacency, f, Infinity, (_, g) => of[g]! < 0 && may(g))!);
    for (const g of own) of[g] = faces.length;
    faces.push(own);
  }
  const areas = { faces, of, squareMetres: Float64Array.from(faces, (own) => squareMetres(adjacency, own)) };
  known.set(adjacency, { angle: by.angle, cells: by.cells.slice(), areas });
  return areas;
}

export const areaAt = (mesh: PolyMesh, adjacency: Adjacency, face: number, by: FlatBy): FlatArea =>
  areaOf(
    mesh,
    adjacency,
    floodArea(adjacency, face, by, (may) => floodWhere(adjacency, face, Infinity, (_, g) => may(g))!),
  );

function areaOf(mesh: PolyMesh, adjacency: Adjacency, faces: Uint32Array): FlatArea {
  const first = faces[0]!;
  return { faces, frame: inMiddleOf(mesh, faces, frameOn(adjacency, first, cornerPoint(mesh, mesh.faceStart[first]!))) };
}

/** More of them are not looked for. */
const mostAlike = 512;

/**
 * The flat areas of a mesh whose outline is that of the area at a face, whichever way they look, the one at the face first: both as
 * they are seen from the front, upright. Throws where there are too many.
 */
export function likeAreas(mesh: PolyMesh, adjacency: Adjacency, face: number, by: FlatBy): FlatArea[] {
  const own = areaAt(mesh, adjacency, face, by);
  const size = squareMetres(adjacency, own.faces);
  const isIn = new Set(own.faces);
  const outline = new Outline(mesh, adjacency, own, (f) => isIn.has(f));
  const areas = flatAreas(adjacency, by);
  const out = [own];
  for (const [n, faces] of areas.faces.entries()) {
    if (Math.abs(areas.squareMetres[n]! - size) > size * likeWithin * 4 || isIn.has(faces[0]!)) continue;
    const area = areaOf(mesh, adjacency, faces);
    if (!outline.isLike(new Outline(mesh, adjacency, area, (f) => areas.of[f] === n))) continue;
    if (out.push(area) > mostAlike)
      throw new Error(`More than ${mostAlike} places of this model are alike here; cut them one by one, or in parts.`);
  }
  return out;
}

const squareMetres = ({ areas }: Adjacency, faces: Uint32Array): number => faces.reduce((sum, f) => sum + areas[f]!, 0);

/** The outline of an area, around its middle. */
class Outline {
  private readonly lines: (readonly [Flat, Flat])[];

  constructor(mesh: PolyMesh, adjacency: Adjacency, { faces, frame }: FlatArea, isIn: (face: number) => boolean) {
    const { faceStart, neighbour, cornerFace } = adjacency;
    const flat = flatIn(frame);
    this.lines = [];
    for (const f of faces)
      for (let c = faceStart[f]!; c < faceStart[f + 1]!; c++) {
        const other = neighbour[c]!;
        if (other >= 0 && isIn(cornerFace[other]!)) continue;
        this.lines.push([flat(cornerPoint(mesh, c)), flat(cornerPoint(mesh, nextCorner(adjacency, c)))]);
      }
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
