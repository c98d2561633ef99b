/**
 * sRGB (8 bit) to OKLab and OKLCH and back.
 *
 * Source: Björn Ottosson, "A perceptual color space for image processing" (2020). OKLab: L 0..1, a and b about ±0.4.
 * OKLCH: L 0..1, C from 0, h in degrees 0..360.
 */
/** sRGB, each a whole number 0 to 255. */
export type Rgb = readonly [red: number, green: number, blue: number];
export type Lab = readonly [lightness: number, a: number, b: number];
export interface Lch {
  l: number;
  c: number;
  h: number;
}

const linearOfByte = Float64Array.from({ length: 256 }, (_, byte) => {
  const v = byte / 255;
  const linear = v <= 0.04045 ? v / 12.92 : ((v + 0.055) / 1.055) ** 2.4;
  // Powers differ in the last digit from one browser to the next; what leaves must not.
  return Math.round(linear * 1e12) / 1e12;
});

/** Linear light 0..1 of an sRGB byte, by the curve of IEC 61966-2-1. */
export function linearFromByte(byte: number): number {
  return linearOfByte[byte & 255]!;
}

/** sRGB byte nearest to linear light `v`; out of range is clamped. */
export function byteFromLinear(v: number): number {
  const s = v <= 0.0031308 ? v * 12.92 : 1.055 * v ** (1 / 2.4) - 0.055;
  return Math.max(0, Math.min(255, Math.round(s * 255)));
}

/**
 * OKLab of linear light, 0..1 each; values outside stand for colors that sRGB cannot show, and are carried
 * through.
 */
export function labFromLinear(r: number, g: number, b: number): Lab {
  const l = Math.cbrt(0.4122214708 * r + 0.5363325363 * g + 0.0514459929 * b);
  const m = Math.cbrt(0.2119034982 * r + 0.6806995451 * g + 0.1073969566 * b);
  const s = Math.cbrt(0.0883024619 * r + 0.2817188376 * g + 0.6299787005 * b);
  return [
    0.2104542553 * l + 0.793617785 * m - 0.0040720468 * s,
    1.9779984951 * l - 2.428592205 * m + 0.4505937099 * s,
    0.0259040371 * l + 0.7827717662 * m - 0.808675766 * s,
  ];
}

/** Linear light of OKLab; outside 0..1 where sRGB cannot show it. */
export function linearFromLab([L, a, b]: Lab): [number, number, number] {
  const l = (L + 0.3963377774 * a + 0.2158037573 * b) ** 3;
  const m = (L - 0.1055613458 * a - 0.0638541728 * b) ** 3;
  const s = (L - 0.0894841775 * a - 1.291485548 * b) ** 3;
  return [
    4.0767416621 * l - 3.3077115913 * m + 0.2309699292 * s,
    -1.2684380046 * l + 2.6097574011 * m - 0.3413193965 * s,
    -0.0041960863 * l - 0.7034186147 * m + 1.707614701 * s,
  ];
}

/** OKLab of sRGB bytes: L 0..1, a and b about ±0.4. */
export function labFromRgb([r, g, b]: Rgb): Lab {
  return labFromLinear(linearFromByte(r), linearFromByte(g), linearFromByte(b));
}

/** Nearest bytes; a color outside sRGB is clamped for each channel, so bring it into gamut first. */
export function rgbFromLab(lab: Lab): Rgb {
  const [r, g, b] = linearFromLab(lab);
  return [byteFromLinear(r), byteFromLinear(g), byteFromLinear(b)];
}

/** Euclidean distance in OKLab; about 0.02 is just visible side by side. */
export function labDistance(p: Lab, q: Lab): number {
  return Math.hypot(p[0] - q[0], p[1] - q[1], p[2] - q[2]);
}

/** Polar OKLab: h 0 to below 360 degrees; 0 for greys, of chroma below 1e-4, whose hue is noise. */
export function lchFromLab([l, a, b]: Lab): Lch {
  const c = Math.hypot(a, b);
  const h = c < 1e-4 ? 0 : (Math.atan2(b, a) * 180) / Math.PI;
  return { l, c, h: (h + 360) % 360 };
}

/** Any h in degrees, also outside 0..360. */
export function labFromLch({ l, c, h }: Lch): Lab {
  const angle = (h * Math.PI) / 180;
  return [l, c * Math.cos(angle), c * Math.sin(angle)];
}

const slack = 1e-4;
/** Whether sRGB can show it, to 1e-4 of linear light. */
export function isInGamut(lch: Lch): boolean {
  return linearFromLab(labFromLch(lch)).every((v) => v >= -slack && v <= 1 + slack);
}

/** The same lightness and hue with the largest chroma, at most the given one, that sRGB can show. */
export function fitToGamut(lch: Lch): Lch {
  const l = Math.max(0, Math.min(1, lch.l));
  if (isInGamut({ ...lch, l })) return { ...lch, l };
  let inside = 0;
  let outside = lch.c;
  for (let i = 0; i < 20; i++) {
    const middle = (inside + outside) / 2;
    if (isInGamut({ l, c: middle, h: lch.h })) inside = middle;
    else outside = middle;
  }
  return { l, c: inside, h: lch.h };
}

export function lchFromRgb(rgb: Rgb): Lch {
  return lchFromLab(labFromRgb(rgb));
}

/** Gamut is met by lowering chroma, never by clipping channels. */
export function rgbFromLch(lch: Lch): Rgb {
  return rgbFromLab(labFromLch(fitToGamut(lch)));
}
