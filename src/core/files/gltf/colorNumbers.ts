import { linearFromByte } from '../../ground/color/oklab';
import type { LeaveOptions } from '../../kit/leaveOptions';

/**
 * Colors of corners as COLOR_0 holds them: 16 bits a channel, 4 for each of `corners`; linear as glTF asks for,
 * or sRGB for readers that take them so. `colors`: sRGB and alpha, 4 bytes for each corner of a mesh.
 */
export function colorNumbers(colors: Uint8Array, corners: ArrayLike<number>, space: LeaveOptions['vertexColors']): Uint16Array {
  const level = Uint16Array.from({ length: 256 }, (_, v) => (space === 'linear' ? Math.round(linearFromByte(v) * 65535) : v * 257));
  const out = new Uint16Array(corners.length * 4);
  for (let i = 0; i < corners.length; i++) {
    const c = corners[i]! * 4;
    for (let k = 0; k < 3; k++) out[i * 4 + k] = level[colors[c + k]!]!;
    out[i * 4 + 3] = colors[c + 3]! * 257;
  }
  return out;
}
