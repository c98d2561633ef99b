/** Bytes that a texture takes on a graphics card. */
export interface TextureMemory {
  /** Four bytes a texel. */
  plain: number;
  /** The same with all smaller mip levels. */
  withMips: number;
  /** Compressed in blocks of 4 × 4 texels, at 4 and at 8 bits a texel, with mip levels. */
  blocks4: number;
  blocks8: number;
  /** How many times more the compressed levels take than their bits a texel, since a block is never cut. */
  roundedUp: number;
}

/** Sizes in texels. A mip level is half as long a side as the one before, down to one texel. */
export function textureMemory(width: number, height: number): TextureMemory {
  let [texels, blocks] = [0, 0];
  for (let [w, h] = [width, height]; ; [w, h] = [Math.max(1, w >> 1), Math.max(1, h >> 1)]) {
    texels += w * h;
    blocks += Math.ceil(w / 4) * Math.ceil(h / 4);
    if (w === 1 && h === 1) break;
  }
  return { plain: width * height * 4, withMips: texels * 4, blocks4: blocks * 8, blocks8: blocks * 16, roundedUp: (blocks * 16) / texels };
}
