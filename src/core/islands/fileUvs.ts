import type { Cell } from '../kit/kit';
import { chartFaces, type Surface } from './unwrap/chart';
import { edgeCorner } from '../shapes/pick/edges';
import { edgesOfUvs } from './unwrap/seams';
import { boundsOf } from './islandsOf';

/**
 * Lays faces on a cell as the UVs of their file have them, the whole picture on the whole cell; islands that lie
 * beside the picture as a whole come onto it. `left`: faces that repeat the picture, where the cell cannot: they are
 * laid nowhere. `null` where the file has no UVs.
 */
export function byFileUvs(
  { mesh, adjacency }: Surface,
  faces: Uint32Array,
  { rect, fill }: Cell,
): { texels: Float32Array; faces: Uint32Array; left: Uint32Array } | null {
  const uvs = mesh.uvSets[0];
  if (!uvs) return null;
  const { faceStart } = mesh;
  const seams = new Set(edgesOfUvs(adjacency, faces, uvs));
  const repeats = fill.kind === 'art' && fill.repeats === true;
  const texels = new Float32Array(uvs.length);
  const [kept, left]: [number[], number[]] = [[], []];
  for (const island of chartFaces(adjacency, faces, (c) => seams.has(edgeCorner(adjacency, c)))) {
    const [x0, x1, y0, y1] = boundsOf(island, faceStart, uvs);
    // A hair of rounding beyond the border is no repetition.
    const shift = [Math.floor(x0 + 1e-4), Math.floor(y0 + 1e-4)] as const;
    const isInside = x1 - shift[0] <= 1 + 1e-4 && y1 - shift[1] <= 1 + 1e-4;
    if (!isInside && !repeats) {
      left.push(...island);
      continue;
    }
    kept.push(...island);
    for (const f of island)
      for (let c = faceStart[f]!; c < faceStart[f + 1]!; c++) {
        texels[c * 2] = rect.x + (uvs[c * 2]! - (isInside ? shift[0] : 0)) * rect.w;
        texels[c * 2 + 1] = rect.y + (uvs[c * 2 + 1]! - (isInside ? shift[1] : 0)) * rect.h;
      }
  }
  return { texels, faces: Uint32Array.from(kept).sort(), left: Uint32Array.from(left).sort() };
}
