import { byteFromLinear, labFromLinear, linearFromByte, type Rgb } from './oklab';

export type Vision = 'grey' | 'protan' | 'deutan' | 'tritan';

/**
 * How dichromats see linear RGB, rows of 3 × 3 matrices.
 * Source: Machado, Oliveira, Fernandes, "A physiologically-based model for simulation of color vision
 * deficiency" (2009), severity 1.
 */
const matrices: Record<Exclude<Vision, 'grey'>, readonly number[]> = {
  protan: [0.152286, 1.052583, -0.204868, 0.114503, 0.786281, 0.099216, -0.003882, -0.048116, 1.051998],
  deutan: [0.367322, 0.860646, -0.227968, 0.280085, 0.672501, 0.047413, -0.01182, 0.04294, 0.968881],
  tritan: [1.255528, -0.076749, -0.178779, -0.078411, 0.930809, 0.147602, 0.004733, 0.691367, 0.3039],
};

/** A color as it reads by its lightness alone (OKLab), or to an eye that lacks one kind of cone. */
export function seenAs(vision: Vision, [red, green, blue]: Rgb): Rgb {
  const [r, g, b] = [linearFromByte(red), linearFromByte(green), linearFromByte(blue)];
  if (vision === 'grey') {
    const grey = byteFromLinear(labFromLinear(r, g, b)[0] ** 3);
    return [grey, grey, grey];
  }
  const m = matrices[vision];
  return [0, 3, 6].map((row) => byteFromLinear(m[row]! * r + m[row + 1]! * g + m[row + 2]! * b)) as unknown as Rgb;
}

/** Relative luminance 0..1 and contrast ratio 1..21 of WCAG 2. */
export function contrast(p: Rgb, q: Rgb): number {
  const luminance = ([r, g, b]: Rgb) => 0.2126 * linearFromByte(r) + 0.7152 * linearFromByte(g) + 0.0722 * linearFromByte(b);
  const [a, b] = [luminance(p), luminance(q)];
  return (Math.max(a, b) + 0.05) / (Math.min(a, b) + 0.05);
}
