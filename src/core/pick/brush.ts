import type { Adjacency } from '../mesh/adjacency';
import type { FaceRaster } from '../view/rasterFaces';

/**
 * Faces under a round brush: those that own a pixel of the circle and hang together with the face under its middle without an edge sharper than `angle` degrees
 * in between. Pixels from the top left.
 */
export function facesUnderBrush(
  { width, height, faces }: FaceRaster,
  adjacency: Adjacency,
  x: number,
  y: number,
  radius: number,
  angle: number,
): number[] {
  const under = new Set<number>();
  for (let py = Math.max(0, Math.floor(y - radius)); py < Math.min(height, y + radius); py++)
    for (let px = Math.max(0, Math.floor(x - radius)); px < Math.min(width, x + radius); px++) {
      const f = faces[py * width + px]!;
      if (f >= 0 && (px + 0.5 - x) ** 2 + (py + 0.5 - y) ** 2 <= radius * radius) under.add(f);
    }
  const [mx, my] = [Math.floor(x), Math.floor(y)];
  const start = mx >= 0 && my >= 0 && mx < width && my < height ? faces[my * width + mx]! : -1;
  if (start < 0) return [];
  const least = Math.cos((angle * Math.PI) / 180) - 1e-6;
  const taken = new Set([start]);
  for (const f of taken)
    for (let c = adjacency.faceStart[f]!; c < adjacency.faceStart[f + 1]!; c++) {
      const d = adjacency.neighbour[c]!;
      if (d < 0 || adjacency.cosine[c]! < least) continue;
      const g = adjacency.cornerFace[d]!;
      if (under.has(g)) taken.add(g);
    }
  return [...taken];
}
