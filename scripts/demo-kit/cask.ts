import type { Raster } from '@/core/ground/pictures/raster';
import { seeded } from './shape';

const rings: [height: number, radius: number][] = [[0, 0.36], [0.2, 0.45], [0.5, 0.5], [0.8, 0.45], [1, 0.36]]; // prettier-ignore
const sides = 14;

/** A cask as an OBJ: its staves around the upper five sixths of its picture, its lid in what is left. */
export function caskObj(): string {
  const [v, vt, f]: string[][] = [[], [], []];
  rings.forEach(([y, r], i) => {
    for (let s = 0; s <= sides; s++) {
      const turn = (s / sides) * 2 * Math.PI;
      v!.push(`v ${Math.cos(turn) * r} ${y} ${Math.sin(turn) * r}`);
      vt!.push(`vt ${s / sides} ${0.25 + (i / (rings.length - 1)) * 0.75}`);
    }
  });
  const at = (i: number, s: number) => `${i * (sides + 1) + s + 1}/${i * (sides + 1) + s + 1}`;
  for (let i = 0; i + 1 < rings.length; i++)
    for (let s = 0; s < sides; s++) f!.push(`f ${at(i, s)} ${at(i + 1, s)} ${at(i + 1, s + 1)} ${at(i, s + 1)}`);
  const lid: string[] = [];
  for (let s = sides - 1; s >= 0; s--) {
    const turn = (s / sides) * 2 * Math.PI;
    v!.push(`v ${Math.cos(turn) * 0.36} 1 ${Math.sin(turn) * 0.36}`);
    vt!.push(`vt ${0.25 + Math.cos(turn) * 0.1} ${0.125 + Math.sin(turn) * 0.115}`);
    lid.push(`${v!.length}/${vt!.length}`);
  }
  return ['mtllib cask.mtl', 'o cask', ...v!, ...vt!, 'usemtl staves', ...f!, `f ${lid.join(' ')}`].join('\n');
}

/** Its picture: staves with their grain, and iron hoops around them. */
export function staves(): Raster {
  const [width, height] = [256, 256];
  const random = seeded(23);
  const grain = Array.from({ length: 64 }, () => random(-1, 1));
  const data = new Uint8Array(width * height * 4).fill(255);
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      const stave = Math.floor(x / 18);
      const line = Math.sin(x * 0.9 + grain[(stave * 7) % 64]! * 9 + Math.sin(y / 23 + stave) * 2.2);
      const light = 0.78 + 0.1 * grain[stave % 64]! + 0.12 * line + random(-0.05, 0.05) - (x % 18 < 2 ? 0.35 : 0);
      const isHoop = y < 192 && [14, 62, 118, 170].some((at) => Math.abs(y - at) < 7);
      const base = isHoop ? [74, 80, 92] : [168, 116, 70];
      const rust = isHoop && random() < 0.14 ? [52, -6, -34] : [0, 0, 0];
      base.forEach(
        (v, k) => (data[(y * width + x) * 4 + k] = Math.max(0, Math.min(255, v * (isHoop ? 0.9 + random(-0.12, 0.12) : light) + rust[k]!))),
      );
    }
  return { width, height, data };
}
