import type { PolyMesh } from '../mesh/polyMesh';
import type { Triangles } from '../mesh/triangulate';

/** A view of a mesh: what a camera sees, computed without a graphics card. */
export interface FaceRaster {
  width: number;
  height: number;
  /** Face under each pixel, rows from the top; -1 where there is none. */
  faces: Int32Array;
}

export interface RasterInput {
  /** 3 for each vertex, metres. */
  positions: Float32Array;
  /** Vertices of triangles, 3 for each, and the face of each triangle. */
  triangleVertices: Uint32Array;
  triangleFace: Uint32Array;
}

/** A mesh as rasters need it. */
export const rasterInputOf = (mesh: PolyMesh, { corners, face }: Triangles): RasterInput => ({
  positions: mesh.positions,
  triangleVertices: corners.map((c) => mesh.cornerVertex[c]!),
  triangleFace: face,
});

/**
 * Face ids under a camera, nearest first, both sides of each face. `matrix`: projection × view, column by
 * column, 16 numbers, clip space of OpenGL. Triangles that reach behind the camera are left out. Method: edge
 * functions over each triangle's box, depth linear in the screen.
 */
export function rasterFaces(
  { positions, triangleVertices, triangleFace }: RasterInput,
  matrix: ArrayLike<number>,
  width: number,
  height: number,
): FaceRaster {
  const vertices = positions.length / 3;
  const screen = new Float32Array(vertices * 3);
  const m = matrix;
  for (let v = 0; v < vertices; v++) {
    const [x, y, z] = [positions[v * 3]!, positions[v * 3 + 1]!, positions[v * 3 + 2]!];
    const w = m[3]! * x + m[7]! * y + m[11]! * z + m[15]!;
    if (w <= 1e-6) {
      screen[v * 3] = NaN;
      continue;
    }
    screen[v * 3] = (((m[0]! * x + m[4]! * y + m[8]! * z + m[12]!) / w) * 0.5 + 0.5) * width;
    screen[v * 3 + 1] = (0.5 - ((m[1]! * x + m[5]! * y + m[9]! * z + m[13]!) / w) * 0.5) * height;
    screen[v * 3 + 2] = (m[2]! * x + m[6]! * y + m[10]! * z + m[14]!) / w;
  }
  const faces = new Int32Array(width * height).fill(-1);
  const depth = new Float32Array(width * height).fill(Infinity);
  for (let t = 0; t < triangleFace.length; t++) {
    const a = triangleVertices[t * 3]! * 3;
    const b = triangleVertices[t * 3 + 1]! * 3;
    const c = triangleVertices[t * 3 + 2]! * 3;
    const [ax, ay, az] = [screen[a]!, screen[a + 1]!, screen[a + 2]!];
    const [bx, by, bz] = [screen[b]!, screen[b + 1]!, screen[b + 2]!];
    const [cx, cy, cz] = [screen[c]!, screen[c + 1]!, screen[c + 2]!];
    const area = (bx - ax) * (cy - ay) - (by - ay) * (cx - ax);
    if (!(Math.abs(area) > 1e-9)) continue;
    const x0 = Math.max(0, Math.ceil(Math.min(ax, bx, cx) - 0.5));
    const x1 = Math.min(width - 1, Math.floor(Math.max(ax, bx, cx) - 0.5));
    const y0 = Math.max(0, Math.ceil(Math.min(ay, by, cy) - 0.5));
    const y1 = Math.min(height - 1, Math.floor(Math.max(ay, by, cy) - 0.5));
    for (let y = y0; y <= y1; y++) {
      const py = y + 0.5;
      for (let x = x0; x <= x1; x++) {
        const px = x + 0.5;
        const u = ((bx - px) * (cy - py) - (by - py) * (cx - px)) / area;
        const v = ((cx - px) * (ay - py) - (cy - py) * (ax - px)) / area;
        const w = 1 - u - v;
        if (u < 0 || v < 0 || w < 0) continue;
        const z = u * az + v * bz + w * cz;
        const at = y * width + x;
        if (z < depth[at]! && z >= -1) {
          depth[at] = z;
          faces[at] = triangleFace[t]!;
        }
      }
    }
  }
  return { width, height, faces };
}
