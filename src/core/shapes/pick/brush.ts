import type { Adjacency } from '../mesh/adjacency';
import type { PolyMesh } from '../mesh/polyMesh';
import type { FaceRaster } from '../view/rasterFaces';
import { isInside, polygonOf, touches, type Lens, type Outline } from './outline';

/** A round brush; pixels from the top left. */
export interface Brush {
  x: number;
  y: number;
  radius: number;
  /** Degrees: it does not go on over edges sharper than this. */
  angle: number;
  /** A face is taken as soon as it is touched, or only when it lies wholly under the brush. */
  reach: 'touched' | 'inside';
}

/**
 * Faces under a brush on the near side: those that own a pixel of the circle and hang together with the face
 * under its middle without a sharper edge in between. `screen`: see `projectVertices`; only needed where
 * faces shall lie wholly inside.
 */
export function facesUnderBrush(
  mesh: PolyMesh,
  { width, height, faces }: FaceRaster,
  adjacency: Adjacency,
  brush: Brush,
  screen?: Float32Array,
): number[] {
  const { x, y, radius, angle, reach } = brush;
  const under = new Set<number>();
  for (let py = Math.max(0, Math.floor(y - radius)); py < Math.min(height, y + radius); py++)
    for (let px = Math.max(0, Math.floor(x - radius)); px < Math.min(width, x + radius); px++) {
      const f = faces[py * width + px]!;
      if (f >= 0 && (px + 0.5 - x) ** 2 + (py + 0.5 - y) ** 2 <= radius * radius) under.add(f);
    }
  const [mx, my] = [Math.floor(x), Math.floor(y)];
  const start = mx >= 0 && my >= 0 && mx < width && my < height ? faces[my * width + mx]! : -1;
  const taken = start < 0 ? [] : hangingTogether(adjacency, [start], under, angle);
  return reach === 'inside' && screen ? taken.filter((f) => isUnder(mesh, screen, f, brush)) : taken;
}

/** Faces under a brush through the whole model: from every face that lies under its middle, whatever is before it. */
export function facesThroughBrush(mesh: PolyMesh, adjacency: Adjacency, screen: Float32Array, brush: Brush, lens?: Lens): number[] {
  const { x, y, radius, angle, reach } = brush;
  const circle: Outline = Float32Array.from({ length: 48 }, (_, i) => {
    const turn = (Math.floor(i / 2) / 24) * 2 * Math.PI;
    return i % 2 ? y + Math.sin(turn) * radius : x + Math.cos(turn) * radius;
  });
  const under = new Set<number>();
  const starts: number[] = [];
  for (let f = 0; f + 1 < mesh.faceStart.length; f++) {
    if (!touches(mesh, screen, f, circle, lens)) continue;
    under.add(f);
    if (isInside(polygonOf(mesh, screen, f, lens), x, y)) starts.push(f);
  }
  const taken = hangingTogether(adjacency, starts, under, angle);
  return reach === 'inside' ? taken.filter((f) => isUnder(mesh, screen, f, brush)) : taken;
}

/** From the starts over edges that are not sharper than the angle, as far as the set goes. */
function hangingTogether(
  { faceStart, neighbour, cosine, cornerFace }: Adjacency,
  starts: readonly number[],
  among: ReadonlySet<number>,
  angle: number,
): number[] {
  const least = Math.cos((angle * Math.PI) / 180) - 1e-6;
  const taken = new Set(starts);
  for (const f of taken)
    for (let c = faceStart[f]!; c < faceStart[f + 1]!; c++) {
      const d = neighbour[c]!;
      if (d < 0 || cosine[c]! < least) continue;
      const g = cornerFace[d]!;
      if (among.has(g)) taken.add(g);
    }
  return [...taken];
}

function isUnder({ faceStart, cornerVertex }: PolyMesh, screen: Float32Array, f: number, { x, y, radius }: Brush): boolean {
  for (let c = faceStart[f]!; c < faceStart[f + 1]!; c++) {
    const v = cornerVertex[c]! * 2;
    if (!((screen[v]! - x) ** 2 + (screen[v + 1]! - y) ** 2 <= radius * radius)) return false;
  }
  return true;
}

/**
 * Middles along a stroke from one place to the next, so close that nothing in between is left out; the last
 * is the next place.
 */
export function alongStroke(from: readonly [number, number], to: readonly [number, number], radius: number): [number, number][] {
  const steps = Math.max(1, Math.ceil(Math.hypot(to[0] - from[0], to[1] - from[1]) / Math.max(1, radius / 2)));
  return Array.from({ length: steps }, (_, i) => {
    const t = (i + 1) / steps;
    return [from[0] + (to[0] - from[0]) * t, from[1] + (to[1] - from[1]) * t];
  });
}
