import { nextCorner, type Adjacency } from '../mesh/adjacency';
import type { PolyMesh } from '../mesh/polyMesh';
import type { Axis, Symmetry } from '../pick/symmetry';
import type { RingCut, RingPlaces } from './ringCut';

const axes: readonly Axis[] = ['x', 'y', 'z'];

/** The same cut across the plane: over the edge of the face's twin that is the mirror image. `null` where the face has no twin. */
export function mirroredCut(
  mesh: PolyMesh,
  adjacency: Adjacency,
  { axis, offset, twin }: Symmetry,
  { edge, places }: RingCut,
): RingCut | null {
  const other = twin[adjacency.cornerFace[edge]!]!;
  if (other < 0) return null;
  const k = axes.indexOf(axis);
  const place = (c: number) => [0, 1, 2].map((i) => mesh.positions[mesh.cornerVertex[c]! * 3 + i]!);
  const image = (c: number) => place(c).map((v, i) => (i === k ? 2 * offset - v : v));
  const off = (p: readonly number[], q: readonly number[]) => Math.hypot(...p.map((v, i) => v - q[i]!));
  const [start, end] = [image(edge), image(nextCorner(adjacency, edge))];
  let found: RingCut | null = null;
  let least = Infinity;
  for (let c = adjacency.faceStart[other]!; c < adjacency.faceStart[other + 1]!; c++) {
    const [from, to] = [place(c), place(nextCorner(adjacency, c))];
    const [same, turned] = [off(from, start) + off(to, end), off(from, end) + off(to, start)];
    if (Math.min(same, turned) >= least) continue;
    least = Math.min(same, turned);
    found = { edge: c, places: turned < same ? turnedPlaces(places) : places };
  }
  return found;
}

/** The same places from the other border. */
function turnedPlaces(places: RingPlaces): RingPlaces {
  if (places.kind === 'share') return { kind: 'share', share: 1 - places.share };
  return places.kind === 'metres' ? { ...places, from: places.from === 'left' ? 'right' : 'left' } : places;
}
