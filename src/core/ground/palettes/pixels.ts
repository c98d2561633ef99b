import { hexFromRgb, rgbFromHex } from '../color/hex';
import { FileError, fileErrorOf } from '../bytes/errors';
import { decodePng, encodePng } from '../pictures/png';
import { startsWith, type PaletteColor, type PaletteFormat, type ReadColors } from './palette';

/** A picture of more pixels than this is no list of colors, one a pixel. */
const mostPixels = 4096;

/** A PNG of one pixel for each color, row by row. Fully transparent pixels are left out. */
function readPixels(file: string, bytes: Uint8Array): ReadColors {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  const [width, height] = bytes.length >= 24 ? [view.getUint32(16), view.getUint32(20)] : [0, 0];
  if (width * height > mostPixels)
    throw new FileError(
      file,
      `it is a picture of ${width} × ${height} pixels, not a palette of one pixel a color (at most ${mostPixels}).`,
    );
  let data: Uint8Array;
  try {
    ({ data } = decodePng(bytes));
  } catch (error) {
    throw fileErrorOf(file, error, 'it cannot be read as a PNG');
  }
  const colors: PaletteColor[] = [];
  for (let i = 0; i < data.length; i += 4) {
    if (data[i + 3] === 0) continue;
    const alpha = data[i + 3]! / 255;
    colors.push({ color: hexFromRgb([data[i]!, data[i + 1]!, data[i + 2]!]), ...(alpha < 1 && { alpha }) });
  }
  return { colors, notes: [] };
}

/** One row of pixels up to 256 colors, rows of 256 beyond; the rest of the last row is transparent. */
function writePixels(colors: readonly PaletteColor[]): Uint8Array {
  const width = Math.min(256, Math.max(1, colors.length));
  const height = Math.max(1, Math.ceil(colors.length / width));
  const data = new Uint8Array(width * height * 4);
  colors.forEach((c, i) => data.set([...rgbFromHex(c.color), Math.round((c.alpha ?? 1) * 255)], i * 4));
  return encodePng({ width, height, data });
}

export const pixelFormat: PaletteFormat = {
  words: 'PNG, one pixel a color',
  extensions: ['png'],
  isSurely: ({ bytes }) => startsWith(bytes, '\x89PNG'),
  isPossible: () => false,
  read: readPixels,
  write: writePixels,
};
