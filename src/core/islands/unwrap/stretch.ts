import type { PolyMesh } from '../../shapes/mesh/polyMesh';
import type { Triangles } from '../../shapes/mesh/triangulate';
import { restOf, stretchOf } from './flat';

/** How faces are stretched where they lie on a sheet. */
export interface Stretch {
  /** Texels a metre for each face, by area; 0 where it lies on a line or a point, or is not asked for. */
  density: Float32Array;
  /** How much longer a texel is one way than the other, 1 for none, for each face; 0 where there is no density. */
  angle: Float32Array;
  /** Texels a metre over all faces that have a density. */
  mean: number;
  /** Means over the area of the mesh: by how many times a face has more or less texels than the mean; and of `angle`. */
  areaStretch: number;
  angleStretch: number;
}

/** `texels`: where each corner lies, 2 each, at the corner's number; `triangleStart`: see `trianglesOfFaces`. */
export function stretchOn(
  { positions, cornerVertex }: PolyMesh,
  { corners }: Triangles,
  faces: Uint32Array,
  texels: Float32Array,
  triangleStart: Uint32Array,
): Stretch {
  const n = triangleStart.length - 1;
  const out: Stretch = { density: new Float32Array(n), angle: new Float32Array(n), mean: 0, areaStretch: 1, angleStretch: 1 };
  const areas = new Float64Array(n);
  let [texelsAll, all] = [0, 0];
  for (const f of faces) {
    const own = corners.slice(triangleStart[f]! * 3, triangleStart[f + 1]! * 3);
    const triangles = Uint32Array.from(own.keys());
    const points = new Float64Array(own.length * 3);
    own.forEach((c, i) => points.set(positions.subarray(cornerVertex[c]! * 3, cornerVertex[c]! * 3 + 3), i * 3));
    const flat = { x: Float64Array.from(own, (c) => texels[c * 2]!), y: Float64Array.from(own, (c) => texels[c * 2 + 1]!) };
    const rest = restOf({ points, triangles });
    let [area, inTexels, long] = [0, 0, 0];
    rest.area.forEach((metres, t) => {
      const [most, least] = stretchOf(triangles, rest, flat, t);
      if (!(metres > 0) || !(least > 1e-6 * most)) return;
      area += metres;
      inTexels += metres * most * least;
      long += (metres * most) / least;
    });
    if (!area) continue;
    areas[f] = area;
    out.density[f] = Math.sqrt(inTexels / area);
    out.angle[f] = long / area;
    texelsAll += inTexels;
    all += area;
  }
  if (!all) return out;
  out.mean = Math.sqrt(texelsAll / all);
  let [byArea, byAngle] = [0, 0];
  for (const f of faces) {
    if (!areas[f]) continue;
    byArea += areas[f]! * timesOff(out, f);
    byAngle += areas[f]! * out.angle[f]!;
  }
  return { ...out, areaStretch: byArea / all, angleStretch: byAngle / all };
}

/** By how many times the texels of a face are more, or fewer, than the mean for its area; 1 for neither. */
export function timesOff({ density, mean }: Stretch, f: number): number {
  const ratio = (density[f]! / mean) ** 2;
  return Math.max(ratio, 1 / ratio);
}

/**
 * Faces by how much their stretch is likely to be seen, the worst first: by what is above 1 of either stretch, and
 * by the side of the face. `seen`: which share of a face can be seen from outside, for each face.
 */
export function worstFaces(stretch: Stretch, areas: Float32Array, seen?: ArrayLike<number>, most = 20): Uint32Array {
  const weight = (f: number) =>
    stretch.density[f]! > 0
      ? (Math.max(timesOff(stretch, f), stretch.angle[f]!) - 1) * Math.sqrt(areas[f]!) * (seen ? Math.min(1, seen[f]!) : 1)
      : 0;
  const weights = Float64Array.from(areas, (_, f) => weight(f));
  const largest = weights.reduce((a, b) => Math.max(a, b), 0);
  const list = Uint32Array.from(weights.keys()).filter((f) => weights[f]! > 1e-3 * largest);
  return list.sort((a, b) => weights[b]! - weights[a]! || a - b).slice(0, most);
}

/** What of stretch is shown by lightness, from 1 to 255, for each face; 0 where it has no density. */
export function stretchTones(stretch: Stretch, by: 'area' | 'angle'): Uint8Array {
  return Uint8Array.from(stretch.density, (d, f) => (d > 0 ? 1 + Math.round(254 * lightnessOf(by, byWord(stretch, by, f))) : 0));
}

const byWord = (stretch: Stretch, by: 'area' | 'angle', f: number): number =>
  by === 'angle' ? stretch.angle[f]! : (stretch.density[f]! / stretch.mean) ** 2;

/**
 * The lightness, 0..1, that stands for a stretch: by angle from 1, light, to 2 and more, dark; by area from four times
 * the mean's texels, light, over the mean, grey, to a fourth of them, dark.
 */
export function lightnessOf(by: 'area' | 'angle', times: number): number {
  const share = by === 'angle' ? 1 - Math.log2(times) : 0.5 + Math.log2(times) / 4;
  return 0.08 + 0.88 * Math.max(0, Math.min(1, share));
}
