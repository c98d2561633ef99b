import type { Chart } from './chart';
import type { Flat, Rest } from './flat';

/**
 * Lays a chart flat triangle by triangle, each rigid beside the one that it was reached from, over the flattest
 * edges first. Exact for what is bent but not curved, however thin the edges are by which its areas hang together;
 * of anything else the triangles do not meet all around, and may be flipped.
 */
export function unfold({ points, triangles }: Chart, rest: Rest): Flat {
  const n = points.length / 3;
  const flat = { x: new Float64Array(n), y: new Float64Array(n) };
  const placed = new Uint8Array(n);
  const sides = new Map<number, number>();
  for (let c = 0; c < triangles.length; c++) sides.set(triangles[c]! * n + triangles[after(c)]!, c);
  const done = new Uint8Array(triangles.length / 3);
  const normals = normalsOf(points, triangles);
  const waiting: number[][] = Array.from({ length: 65 }, () => []);
  const heads = new Uint32Array(65);
  let least = 0;
  const enter = (t: number) => {
    done[t] = 1;
    for (let c = t * 3; c < t * 3 + 3; c++) {
      const across = sides.get(triangles[after(c)]! * n + triangles[c]!);
      if (across === undefined || done[(across / 3) | 0]) continue;
      const u = ((across / 3) | 0) * 3;
      const dot = normals[t * 3]! * normals[u]! + normals[t * 3 + 1]! * normals[u + 1]! + normals[t * 3 + 2]! * normals[u + 2]!;
      const fold = Math.round((1 - Math.max(-1, Math.min(1, dot))) * 32);
      waiting[fold]!.push(across);
      least = Math.min(least, fold);
    }
  };
  const first = rest.area.indexOf(rest.area.reduce((a, b) => Math.max(a, b), 0));
  const [a, b, c] = [triangles[first * 3]!, triangles[first * 3 + 1]!, triangles[first * 3 + 2]!];
  flat.x[b] = rest.length[first]!;
  [flat.x[c], flat.y[c]] = [rest.px[first]!, rest.py[first]!];
  placed[a] = placed[b] = placed[c] = 1;
  enter(first);
  while (least < 65) {
    const across = waiting[least]![heads[least]!];
    if (across === undefined) {
      least++;
      continue;
    }
    heads[least]!++;
    const t = (across / 3) | 0;
    if (done[t]) continue;
    const third = after(after(across));
    if (!placed[triangles[third]!]) hang(triangles, rest, flat, across);
    placed[triangles[third]!] = 1;
    enter(t);
  }
  return flat;
}

const after = (c: number): number => (c % 3 === 2 ? c - 2 : c + 1);

/** Places the third corner of a triangle beside the edge that begins at one of its corners, and lies flat already. */
function hang(triangles: Uint32Array, rest: Rest, { x, y }: Flat, corner: number): void {
  const t = (corner / 3) | 0;
  const shape = [
    [0, 0],
    [rest.length[t]!, 0],
    [rest.px[t]!, rest.py[t]!],
  ] as const;
  const [i, j, k] = [corner, after(corner), after(after(corner))].map((c) => c % 3) as [number, number, number];
  const [from, to] = [triangles[t * 3 + i]!, triangles[t * 3 + j]!];
  const [ux, uy] = [shape[j]![0] - shape[i]![0], shape[j]![1] - shape[i]![1]];
  const [vx, vy] = [shape[k]![0] - shape[i]![0], shape[k]![1] - shape[i]![1]];
  const [ex, ey] = [x[to]! - x[from]!, y[to]! - y[from]!];
  const [square, length] = [ux * ux + uy * uy, Math.hypot(ex, ey) || 1];
  const [along, beside] = [(ux * vx + uy * vy) / Math.sqrt(square), (ux * vy - uy * vx) / Math.sqrt(square)];
  const v = triangles[t * 3 + k]!;
  x[v] = x[from]! + (ex * along - ey * beside) / length;
  y[v] = y[from]! + (ey * along + ex * beside) / length;
}

function normalsOf(points: Float64Array, triangles: Uint32Array): Float64Array {
  const normals = new Float64Array(triangles.length);
  for (let t = 0; t < triangles.length; t += 3) {
    const [a, b, c] = [triangles[t]! * 3, triangles[t + 1]! * 3, triangles[t + 2]! * 3];
    const [ux, uy, uz] = [points[b]! - points[a]!, points[b + 1]! - points[a + 1]!, points[b + 2]! - points[a + 2]!];
    const [vx, vy, vz] = [points[c]! - points[a]!, points[c + 1]! - points[a + 1]!, points[c + 2]! - points[a + 2]!];
    const normal = [uy * vz - uz * vy, uz * vx - ux * vz, ux * vy - uy * vx];
    const size = Math.hypot(...normal) || 1;
    normals.set(
      normal.map((v) => v / size),
      t,
    );
  }
  return normals;
}
