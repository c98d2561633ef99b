import { byteFromLinear, labFromLch, linearFromLab } from '@/core/ground/color/oklab';
import type { Raster } from '@/core/ground/pictures/raster';

/** A painted view of the skerry at dusk, to take colors from: sky, sea, rocks, the tower. */
export function duskScene(width = 640, height = 400): Raster {
  const data = new Uint8Array(width * height * 4);
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      const [l, c, h] = colorAt((x + 0.5) / width, (y + 0.5) / height);
      const rgb = linearFromLab(labFromLch({ l, c, h })).map(byteFromLinear);
      data.set([...rgb, 255], (y * width + x) * 4);
    }
  return { width, height, data };
}

type Lch = [lightness: number, chroma: number, hue: number];
const mix = (a: Lch, b: Lch, t: number): Lch => [0, 1, 2].map((k) => a[k]! + (b[k]! - a[k]!) * Math.max(0, Math.min(1, t))) as Lch;
/** Strokes of a broad brush rather than smooth shades. */
const stroke = (v: number, n: number) => Math.round(v * n) / n;

function colorAt(x: number, y: number): Lch {
  return towerAt(x, y) ?? rocksAt(x, y) ?? (y > 0.62 ? seaAt(x, y) : skyAt(x, y));
}

function skyAt(x: number, y: number): Lch {
  const t = stroke(y / 0.62 + 0.03 * Math.sin(x * 9 + y * 14), 22);
  const sky = t < 0.6 ? mix([0.42, 0.06, 268], [0.7, 0.06, 320], t / 0.6) : mix([0.74, 0.07, 25], [0.9, 0.09, 80], (t - 0.6) / 0.4);
  const cloud = Math.sin(x * 13 + Math.sin(y * 31) * 1.6) * Math.sin(y * 23 + 0.7);
  return cloud > 0.72 && y > 0.1 && y < 0.5 ? mix(sky, [0.88, 0.06, sky[2] < 180 ? 55 : 345], 0.4) : sky;
}

function seaAt(x: number, y: number): Lch {
  const t = (y - 0.62) / 0.38;
  const wave = stroke(Math.sin(x * (40 - 26 * t) + Math.sin(y * 60) * 2) * 0.5 + 0.5, 3);
  const sea = mix([0.6, 0.06, 240], [0.34, 0.055, 250], stroke(t, 9));
  const glitter = Math.abs(x - 0.76 - 0.03 * Math.sin(y * 90)) < 0.02 + 0.05 * t && wave > 0.6;
  return glitter ? [0.88, 0.09, 78] : mix(sea, [0.5, 0.06, 236], wave * 0.35);
}

function rocksAt(x: number, y: number): Lch | null {
  const ridge = 0.63 - 0.07 * Math.exp(-((x - 0.3) ** 2) / 0.02) - 0.03 * Math.abs(Math.sin(x * 23)) + Math.max(0, x - 0.48) * 1.1;
  const foot = 0.74 + 0.02 * Math.sin(x * 17) - 0.5 * Math.max(0, x - 0.5);
  if (y < ridge || y > foot) return null;
  const facet = Math.sin(x * 37 + Math.floor(y * 40 + x * 9) * 1.7);
  if (facet > 0.55 && y < ridge + 0.05) return [0.55, 0.09, 118];
  return facet > 0 ? [0.46, 0.03, 255] : [0.33, 0.03, 265];
}

function towerAt(x: number, y: number): Lch | null {
  const [top, bottom] = [0.2, 0.58];
  const across = (x - 0.3) / (0.028 + 0.014 * ((y - top) / (bottom - top)));
  if (Math.abs(x - 0.3) < 0.02 && y > 0.15 && y <= top) return Math.abs(x - 0.3) < 0.012 ? [0.93, 0.12, 92] : [0.28, 0.02, 270];
  if (Math.abs(x - 0.3) < 0.026 - Math.max(0, 0.15 - y) * 0.5 && y > 0.11 && y <= 0.15) return [0.5, 0.15, 28];
  if (y < top || y > bottom || Math.abs(across) > 1) return null;
  const isBand = Math.floor(((y - top) / (bottom - top)) * 5) % 2 === 1;
  const shade = across > 0.35 ? 0.14 : 0;
  return isBand ? [0.54 - shade, 0.15, 28] : [0.92 - shade * 1.4, 0.02, 88 + shade * 900];
}
