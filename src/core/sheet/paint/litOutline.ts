/** Pixels that an outline reaches beyond the picture. */
export const outlineReach = 2;

const [white, ink] = [0xffffffff, 0xff111111];

/**
 * The outline of some texels of an art that is shown in `w` × `h` pixels, as pixels of a picture that reaches by `outlineReach`
 * beyond it on each side: ink along both sides of every border, white beside it, clear elsewhere; dots on them where that would
 * cover most of what is there. Made in the pixels that are seen, so that it takes no longer for millions of texels than their
 * number.
 */
export function outlineOfTexels(
  { width, height }: { width: number; height: number },
  texels: Uint32Array,
  w: number,
  h: number,
): { width: number; height: number; pixels: Uint32Array<ArrayBuffer> } {
  const [across, down] = [w + 2 * outlineReach, h + 2 * outlineReach];
  const isIn = new Uint8Array(across * down);
  const edges = (size: number, shown: number) =>
    Int32Array.from({ length: size + 1 }, (_, i) => Math.floor((i * shown) / size) + outlineReach);
  const [columns, rows] = [edges(width, w), edges(height, h)];
  for (let i = 0; i < texels.length;) {
    const first = texels[i]!;
    const [x, y] = [first % width, Math.floor(first / width)];
    let n = 1;
    while (x + n < width && texels[i + n] === first + n) n++;
    // Where texels are smaller than a pixel each is seen in one.
    const [x0, y0] = [columns[x]!, rows[y]!];
    const [x1, y1] = [Math.max(columns[x + n]!, columns[x + n - 1]! + 1), Math.max(rows[y + 1]!, y0 + 1)];
    for (let v = y0; v < y1; v++) for (let p = v * across + x0; p < v * across + x1; p++) isIn[p] = 1;
    i += n;
  }
  const pixels = new Uint32Array(across * down);
  // White is two pixels wide to both sides, ink one.
  outline(isIn, across, down, pixels, white, 2);
  outline(isIn, across, down, pixels, ink, 1);
  let [lit, covered] = [0, 0];
  for (let p = 0; p < isIn.length; p++)
    if (isIn[p]) {
      lit++;
      if (pixels[p] === ink) covered++;
    }
  if (lit > fewPixels && covered * 2 > lit) stipple(isIn, across, pixels);
  return { width: across, height: down, pixels };
}

/** Outlines of many texels that are scattered and small would hide what is there. */
const fewPixels = 2000;

function outline(isIn: Uint8Array, across: number, down: number, pixels: Uint32Array, color: number, reach: number): void {
  for (let v = 1; v < down; v++)
    for (let u = 1, p = v * across + 1; u < across; u++, p++) {
      if (isIn[p] !== isIn[p - 1])
        for (let k = Math.max(0, u - reach); k < Math.min(across, u + reach); k++) pixels[v * across + k] = color;
      if (isIn[p] !== isIn[p - across])
        for (let k = Math.max(0, v - reach); k < Math.min(down, v + reach); k++) pixels[k * across + u] = color;
    }
}

/** Dots on what is lit, of ink and white by turns, so that they show on every color. */
function stipple(isIn: Uint8Array, across: number, pixels: Uint32Array): void {
  for (let p = 0; p < isIn.length; p++) {
    const [u, v] = [p % across, Math.floor(p / across)];
    pixels[p] = isIn[p] && u % 3 === 0 && v % 3 === 0 ? ((u + v) % 2 ? ink : white) : 0;
  }
}
