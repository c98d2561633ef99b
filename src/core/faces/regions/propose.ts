import type { Kit, Seats } from '../../kit/kit';
import type { Adjacency } from '../../shapes/mesh/adjacency';
import { boundsOf } from '../../shapes/mesh/measure';
import { faceCount, type PolyMesh } from '../../shapes/mesh/polyMesh';
import { floodFlat, floodSmooth } from '../../shapes/pick/floods';

export interface ProposedRegion {
  name: string;
  faces: Uint32Array;
  /** The color that all its faces have. */
  cell?: number;
}
export interface RegionProposal {
  by: 'parts' | 'creases' | 'flats' | 'materials' | 'objects' | 'groups' | 'colors' | 'height';
  regions: ProposedRegion[];
}

/** A proposal of more regions than this helps nobody; the smallest of it are left out. */
const mostProposed = 60;
/** Larger models are not looked at for flat areas: a flood for each. */
const mostForFlats = 20_000;

/** Ways to divide a model into regions, for those that give at least two. `creaseAngle`, `flatAngle`: degrees. */
export function proposeRegions(
  mesh: PolyMesh,
  adjacency: Adjacency,
  seats: Pick<Seats, 'cell'>,
  kit: Kit,
  creaseAngle: number,
  flatAngle = 0,
): RegionProposal[] {
  const all: RegionProposal[] = [
    { by: 'parts', regions: byLabel(adjacency.part, (n) => `part ${n + 1}`) },
    { by: 'creases', regions: byFlood(adjacency, (f) => floodSmooth(adjacency, f, creaseAngle)!) },
    { by: 'flats', regions: byFlatAreas(adjacency, flatAngle) },
    { by: 'materials', regions: byLabel(mesh.faceSlot, (n) => mesh.slots[n]!.name) },
    { by: 'objects', regions: byLabel(mesh.faceObject, (n) => mesh.objects[n]!) },
    { by: 'groups', regions: mesh.faceGroup && mesh.groups ? byLabel(mesh.faceGroup, (n) => mesh.groups![n]!) : [] },
    { by: 'colors', regions: byColor(seats, kit) },
    { by: 'height', regions: byHeight(mesh) },
  ];
  return all
    .map(({ by, regions }) => ({ by, regions: [...regions].sort((p, q) => q.faces.length - p.faces.length).slice(0, mostProposed) }))
    .filter((p) => p.regions.length > 1 || (p.by === 'colors' && p.regions.length === 1));
}

/** A region for each color that faces have, called as its role. */
export const byColor = (seats: Pick<Seats, 'cell'>, kit: Kit): ProposedRegion[] =>
  byLabel(seats.cell, (n) => roleOf(kit, n))
    .filter((r) => r.name !== '')
    .map((r) => ({ ...r, cell: seats.cell[r.faces[0]!]! }));

function roleOf(kit: Kit, id: number): string {
  if (!id) return '';
  const cell = kit.sheets.flatMap((s) => s.cells).find((c) => c.id === id);
  return cell?.role || `color ${id}`;
}

function byLabel(labels: ArrayLike<number>, nameOf: (label: number) => string): ProposedRegion[] {
  const lists = new Map<number, number[]>();
  for (let f = 0; f < labels.length; f++) {
    const list = lists.get(labels[f]!);
    if (list) list.push(f);
    else lists.set(labels[f]!, [f]);
  }
  return [...lists].map(([label, faces]) => ({ name: nameOf(label), faces: Uint32Array.from(faces) }));
}

function byFlood(adjacency: Adjacency, flood: (face: number) => Uint32Array): ProposedRegion[] {
  const label = new Int32Array(adjacency.faceStart.length - 1).fill(-1);
  let count = 0;
  for (let f = 0; f < label.length; f++) {
    if (label[f]! >= 0) continue;
    for (const g of flood(f)) if (label[g]! < 0) label[g] = count;
    count++;
  }
  return byLabel(label, (n) => `surface ${n + 1}`);
}

/** Each flat area by itself, in models of few; most models have far more than anyone would name. */
function byFlatAreas(adjacency: Adjacency, angle: number): ProposedRegion[] {
  if (adjacency.faceStart.length - 1 > mostForFlats) return [];
  const regions = byFlood(adjacency, (f) => floodFlat(adjacency, f, angle)!);
  return regions.length <= mostProposed ? regions : [];
}

const bands = ['foot', 'lower', 'middle', 'upper', 'top'] as const;

/** Five bands of equal height, by the middles of faces. */
function byHeight(mesh: PolyMesh): ProposedRegion[] {
  const { min, max } = boundsOf(mesh);
  const height = max[1]! - min[1]! || 1;
  const label = Array.from({ length: faceCount(mesh) }, (_, f) => {
    const [start, end] = [mesh.faceStart[f]!, mesh.faceStart[f + 1]!];
    let y = 0;
    for (let c = start; c < end; c++) y += mesh.positions[mesh.cornerVertex[c]! * 3 + 1]! / (end - start);
    return Math.min(bands.length - 1, Math.floor(((y - min[1]!) / height) * bands.length));
  });
  return byLabel(label, (n) => bands[n]!);
}
