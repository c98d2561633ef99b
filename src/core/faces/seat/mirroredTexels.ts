import type { Seats } from '../../kit/kit';
import type { PolyMesh } from '../../shapes/mesh/polyMesh';
import type { Triangles } from '../../shapes/mesh/triangulate';
import type { Symmetry } from '../../shapes/pick/symmetry';
import { placeAtPoint, pointOfTexel, texelIn } from './texelsOnFaces';

/** A painted art as a model shows it. `faceOf`: the first face that shows each texel, -1 none. */
export interface ShownArt {
  mesh: Pick<PolyMesh, 'positions' | 'cornerVertex' | 'faceStart'>;
  triangles: Triangles;
  seats: Pick<Seats, 'at'>;
  size: { width: number; height: number };
  faceOf: Int32Array;
}

const axes = ['x', 'y', 'z'];

/** Where on the model (metres) the middle of a texel is shown; `null` where it is not. */
export function pointShown({ mesh, triangles, seats, size, faceOf }: ShownArt, texel: number): [number, number, number] | null {
  const face = faceOf[texel]!;
  return face < 0 ? null : pointOfTexel(mesh, triangles, seats, size, face, [texel % size.width, Math.floor(texel / size.width)]);
}

/** On which side of a plane the model shows a texel: 1 or -1; 0 on it, or nowhere. */
export function sideOfTexel(art: ShownArt, texel: number, { axis, offset }: Pick<Symmetry, 'axis' | 'offset'>): number {
  const point = pointShown(art, texel);
  return point ? Math.sign(point[axes.indexOf(axis)]! - offset) : 0;
}

/** Texels from where one lies square to another that are told apart from none. */
const nearly = 0.26;

/**
 * The texel that lies across a plane: where the twin of its face shows the mirrored point of its middle; `null` where there
 * is none. `isExact`: its own middle lies there, too.
 */
export function mirroredTexel(art: ShownArt, texel: number, { axis, offset, twin }: Symmetry): { texel: number; isExact: boolean } | null {
  const { mesh, triangles, seats, size, faceOf } = art;
  const point = pointShown(art, texel);
  const other = twin[faceOf[texel]!] ?? -1;
  if (!point || other < 0) return null;
  const k = axes.indexOf(axis);
  point[k] = 2 * offset - point[k]!;
  const place = placeAtPoint(mesh, triangles, seats, size, other, point);
  if (!place) return null;
  const [x, y] = texelIn(size, place);
  const isExact = Math.hypot(place[0] - x - 0.5, place[1] - y - 0.5) <= nearly;
  return { texel: y * size.width + x, isExact };
}

/**
 * The texels across a plane of some: all that have their own mirrored texel among these, so that where the other half has
 * more texels no gap is left.
 */
export function mirroredTexels(art: ShownArt, texels: Uint32Array, plane: Symmetry): Set<number> {
  const { width } = art.size;
  const own = new Set(texels);
  const found = new Set<number>();
  const near = new Set<number>();
  for (const texel of texels) {
    const across = mirroredTexel(art, texel, plane)?.texel;
    if (across === undefined) continue;
    // Where the other half has fewer texels several share one.
    found.add(across);
    for (const row of [-width, 0, width]) for (const step of [-1, 0, 1]) near.add(across + row + step);
  }
  for (const to of near) {
    const back = art.faceOf[to] === undefined ? null : mirroredTexel(art, to, plane);
    if (back && own.has(back.texel)) found.add(to);
  }
  return found;
}
