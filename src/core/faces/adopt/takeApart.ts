import { hexFromRgb } from '../../ground/color/hex';
import { labDistance, labFromRgb, type Lab, type Rgb } from '../../ground/color/oklab';
import type { Fill } from '../../kit/kit';
import type { PolyMesh } from '../../shapes/mesh/polyMesh';
import type { Block, Finding } from '../../sheet/picture/readBlocks';
import { gradientAt } from '../../sheet/raster';
import type { Raster } from '../../ground/pictures/raster';
import { placeIn } from './seatsByUvs';
import { eachTexel, faceTexels, type FaceTexels } from './uvTexels';

/** Faces of a model that show a picture. */
export interface Pictured {
  mesh: PolyMesh;
  faces: Uint32Array;
}

/** What faces that show a picture would sit on instead. */
export interface TakenApart {
  /** Colors, gradients and, where any face needs it, a part of the picture as art. Only what faces use. */
  blocks: Block[];
  /** For each model: the block of each of its faces, in their order (`noBlock`: it stays); and where its corners lie in it. */
  models: { block: Uint16Array; at: Float32Array }[];
  /** How many faces become what. */
  faces: { solid: number; gradient: number; art: number; repeating: number };
  /** The largest change of a texel's color under any face, OKLab. */
  largest: number;
}

/** Of a face that repeats the picture beyond its edges: on a sheet with other cells it cannot. */
export const noBlock = 65535;

/** OKLab distance up to which the texels of a face count as one color. */
export const usualTolerance = 0.02;

interface Flat {
  rgb: Rgb;
  lab: Lab;
  /** The different colors of its texels. */
  labs: Lab[];
  /** Of one face, and of all that lie as it does. */
  each: number;
  weight: number;
  block: number;
}

/**
 * Takes a picture apart into what faces show of it: a face all of whose texels are of one color, within a
 * tolerance (OKLab), sits on that color; one on a gradient that `finding` tells of, on the gradient; any other
 * on the picture itself, of which below a tolerance of 0 all is kept. No texel of a face on a color is farther from it than the tolerance.
 */
export function takeApart(raster: Raster, finding: Finding, models: readonly Pictured[], tolerance = usualTolerance): TakenApart {
  const { width, height } = raster;
  const gradients = finding.blocks.filter((b) => b.fill.kind === 'gradient');
  // Faces that lie alike, as on a picture that is tiled, are looked at once.
  const known = new Map<string, { gradient: Block | undefined; flat: Flat | null }>();
  const looks = models.map(({ mesh, faces }) =>
    Array.from(faces, (f) => {
      const texels = faceTexels(mesh, f, width, height);
      const key = texels.points.join();
      const own = known.get(key);
      if (own) {
        if (own.flat) own.flat.weight += own.flat.each;
        return { texels, ...own };
      }
      const gradient = gradients.find((b) => isIn(texels, b) && gradientChange(raster, texels, b) <= Math.max(tolerance, usualTolerance));
      const look = { gradient, flat: gradient ? null : flatColor(raster, texels, tolerance) };
      known.set(key, look);
      return { texels, ...look };
    }),
  );
  const colors = chooseColors(
    [...known.values()].flatMap((l) => l.flat ?? []),
    tolerance,
  );
  const blocks: Block[] = colors.map(({ rgb }, i) => ({
    rect: { x: i, y: 0, w: 1, h: 1 },
    fill: { kind: 'solid', color: hexFromRgb(rgb) },
  }));
  const blockOf = new Map<Block, number>();
  const whole: Block = { rect: { x: 0, y: 0, w: width, h: height }, fill: { kind: 'art' } };
  const stays = looks.flat().filter((l) => !l.flat && !l.gradient && isIn(l.texels, whole));
  const art: Block =
    tolerance < 0
      ? whole
      : {
          ...whole,
          rect: boundsOf(
            stays.map((l) => l.texels),
            width,
            height,
          ),
        };
  const indexOf = (block: Block) => {
    if (!blockOf.has(block)) blockOf.set(block, blocks.push(block) - 1);
    return blockOf.get(block)!;
  };
  const counts = { solid: 0, gradient: 0, art: 0, repeating: 0 };
  let largest = 0;
  const out = models.map(({ mesh }, m) => {
    const block = new Uint16Array(looks[m]!.length);
    const at = new Float32Array(mesh.cornerVertex.length * 2).fill(0.5);
    looks[m]!.forEach(({ texels, gradient, flat }, i) => {
      const face = models[m]!.faces[i]!;
      if (flat) {
        block[i] = flat.block;
        counts.solid++;
        largest = Math.max(largest, changeTo(flat, colors[flat.block]!.lab));
        return;
      }
      if (!gradient && !isIn(texels, whole)) {
        block[i] = noBlock;
        counts.repeating++;
        return;
      }
      const on = gradient ?? art;
      block[i] = indexOf(on);
      counts[gradient ? 'gradient' : 'art']++;
      if (gradient) largest = Math.max(largest, gradientChange(raster, texels, gradient));
      placeIn(gradient ? (gradient.fill as Fill) : { kind: 'art', picture: '' }, on.rect, texels, at, mesh.faceStart[face]! * 2);
    });
    return { block, at };
  });
  return { blocks, models: out, faces: counts, largest };
}

const texelOf = ({ width, data }: Raster, x: number, y: number): Rgb => {
  const at = (y * width + x) * 4;
  return [data[at]!, data[at + 1]!, data[at + 2]!];
};

/** The color that most texels of a face have, where all are near to it; in noise, their mean. Two that are too far apart end the search. */
function flatColor(raster: Raster, texels: FaceTexels, tolerance: number): Flat | null {
  const counts = new Map<number, number>();
  const known: Lab[] = [];
  let [total, run, last, isFlat] = [0, 0, -1, true];
  const keep = () => last >= 0 && counts.set(last, (counts.get(last) ?? 0) + run);
  eachTexel(texels, raster.width, raster.height, (x, y) => {
    const [r, g, b] = texelOf(raster, x, y);
    const key = (r << 16) | (g << 8) | b;
    total++;
    if (key === last) {
      run++;
      return false;
    }
    keep();
    [last, run] = [key, 1];
    if (counts.has(key)) return false;
    const lab = labFromRgb([r, g, b]);
    isFlat = known.every((other) => labDistance(lab, other) <= 2 * Math.max(0, tolerance) + rounding);
    known.push(lab);
    return !isFlat;
  });
  if (!isFlat) return null;
  keep();
  const rgbOf = (key: number): Rgb => [key >> 16, (key >> 8) & 255, key & 255];
  const [most, share] = [...counts].reduce((best, entry) => (entry[1] > best[1] ? entry : best));
  const mean = () =>
    [0, 1, 2].map((k) => Math.round([...counts].reduce((sum, [key, n]) => sum + rgbOf(key)[k]! * n, 0) / total)) as unknown as Rgb;
  const rgb = share * 2 >= total ? rgbOf(most) : mean();
  const lab = labFromRgb(rgb);
  const flat: Flat = { rgb, lab, labs: known, each: total, weight: total, block: 0 };
  return changeTo(flat, lab) <= tolerance ? flat : null;
}

/** Of distances that are added. */
const rounding = 1e-9;

/**
 * As few colors as it takes for each face to have one from which none of its texels is farther than the
 * tolerance; faces of more texels come first, and their color takes others in. Gives each face its block.
 */
function chooseColors(flats: readonly Flat[], tolerance: number): Flat[] {
  const kept: Flat[] = [];
  for (const flat of [...flats].sort((p, q) => q.weight - p.weight)) {
    const near = kept.find((k) => changeTo(flat, k.lab) <= tolerance);
    flat.block = near?.block ?? kept.length;
    if (!near) kept.push(flat);
  }
  return kept;
}

/** The largest change of a texel of a face that takes a color. */
const changeTo = ({ labs }: Flat, color: Lab): number => labs.reduce((most, lab) => Math.max(most, labDistance(color, lab)), 0);

/** The texels that some faces lie on, and one more around them. */
function boundsOf(faces: readonly FaceTexels[], width: number, height: number): Block['rect'] {
  let [x0, y0, x1, y1] = [width, height, 0, 0];
  for (const { points } of faces)
    for (let i = 0; i < points.length; i += 2) {
      x0 = Math.min(x0, Math.floor(points[i]!) - 1);
      x1 = Math.max(x1, Math.ceil(points[i]!) + 1);
      y0 = Math.min(y0, Math.floor(points[i + 1]!) - 1);
      y1 = Math.max(y1, Math.ceil(points[i + 1]!) + 1);
    }
  const [x, y] = [Math.max(0, x0), Math.max(0, y0)];
  return { x, y, w: Math.max(1, Math.min(width, x1) - x), h: Math.max(1, Math.min(height, y1) - y) };
}

/** Texels by which a face may lie beyond a gradient. */
const slack = 0.02;

function isIn({ points }: FaceTexels, { rect: { x, y, w, h } }: Block): boolean {
  for (let i = 0; i < points.length; i += 2) {
    const [px, py] = [points[i]! - x, points[i + 1]! - y];
    if (px < -slack || py < -slack || px > w + slack || py > h + slack) return false;
  }
  return true;
}

function gradientChange(raster: Raster, texels: FaceTexels, { rect, fill }: Block): number {
  if (fill.kind !== 'gradient') return Infinity;
  const [start, size] = fill.axis === 'x' ? [rect.x, rect.w] : [rect.y, rect.h];
  let largest = 0;
  const made = Array.from({ length: size }, (_, i) => labFromRgb(gradientAt(fill, size > 1 ? i / (size - 1) : 0.5)));
  let [last, lab] = [-1, made[0]!];
  eachTexel(texels, raster.width, raster.height, (x, y) => {
    const at = Math.max(0, Math.min(size - 1, (fill.axis === 'x' ? x : y) - start));
    const rgb = texelOf(raster, x, y);
    const key = (rgb[0] << 16) | (rgb[1] << 8) | rgb[2];
    if (key !== last) [last, lab] = [key, labFromRgb(rgb)];
    largest = Math.max(largest, labDistance(made[at]!, lab));
  });
  return largest;
}
