import {
  DataArrayTexture,
  DataTexture,
  LinearFilter,
  LinearMipmapLinearFilter,
  RepeatWrapping,
  NearestFilter,
  RedIntegerFormat,
  RGBAFormat,
  UnsignedByteType,
  UnsignedShortType,
  type PixelFormat,
  type TextureDataType,
} from 'three';
import type { Raster } from '@/core/ground/pictures/raster';
import type { PictureStack } from '@/core/faces/seat/colorsAsRead';

const width = 1024;

function texture(
  data: Uint8Array | Uint16Array,
  w: number,
  h: number,
  format: PixelFormat,
  type: TextureDataType,
  internal: 'R16UI' | 'R8UI' | 'RGBA8',
): DataTexture {
  const t = new DataTexture(
    data as Uint8Array<ArrayBuffer>,
    w,
    h,
    format,
    type,
    undefined,
    undefined,
    undefined,
    NearestFilter,
    NearestFilter,
  );
  t.internalFormat = internal;
  t.generateMipmaps = false;
  t.unpackAlignment = 1;
  t.needsUpdate = true;
  return t;
}

export interface FaceTextures {
  width: number;
  cells: DataTexture;
  states: DataTexture;
  asRead: DataTexture;
  /** Lightness in place of a color, from 1; 0 none. */
  tones: DataTexture;
}

/** The cell of each face. */
export function cellsTexture(faces: number): DataTexture {
  const rows = Math.max(1, Math.ceil(faces / width));
  return texture(new Uint16Array(width * rows), width, rows, RedIntegerFormat, UnsignedShortType, 'R16UI');
}

/** One texel for each face, in rows of 1,024. */
export function faceTextures(asRead: Uint8Array): FaceTextures {
  const faces = asRead.length / 4;
  const rows = Math.max(1, Math.ceil(faces / width));
  const padded = new Uint8Array(width * rows * 4);
  padded.set(asRead);
  return {
    width,
    cells: cellsTexture(faces),
    states: texture(new Uint8Array(width * rows), width, rows, RedIntegerFormat, UnsignedByteType, 'R8UI'),
    tones: texture(new Uint8Array(width * rows), width, rows, RedIntegerFormat, UnsignedByteType, 'R8UI'),
    asRead: texture(padded, width, rows, RGBAFormat, UnsignedByteType, 'RGBA8'),
  };
}

/** The pictures that faces came with, as layers; a single white texel where there are none. */
export function pictureTexture(stack: PictureStack | null): DataArrayTexture {
  const { size, names, data } = stack ?? { size: 1, names: [''], data: new Uint8Array(4).fill(255) };
  const t = new DataArrayTexture(data as Uint8Array<ArrayBuffer>, size, size, names.length);
  t.wrapS = t.wrapT = RepeatWrapping;
  t.magFilter = LinearFilter;
  t.minFilter = LinearMipmapLinearFilter;
  t.generateMipmaps = true;
  t.needsUpdate = true;
  return t;
}

/** Sheets as layers of one size, each in its top left corner; a single texel where none is needed. */
export function sheetTexture(sheets: readonly Raster[]): DataArrayTexture {
  const width = Math.max(1, ...sheets.map((s) => s.width));
  const height = Math.max(1, ...sheets.map((s) => s.height));
  const layers = Math.max(1, sheets.length);
  const data = new Uint8Array(width * height * 4 * layers);
  sheets.forEach((s, layer) => {
    for (let y = 0; y < s.height; y++) data.set(s.data.subarray(y * s.width * 4, (y + 1) * s.width * 4), (layer * height + y) * width * 4);
  });
  const t = new DataArrayTexture(data as Uint8Array<ArrayBuffer>, width, height, layers);
  t.magFilter = t.minFilter = NearestFilter;
  t.unpackAlignment = 1;
  t.needsUpdate = true;
  return t;
}

/** Colors by cell id, 256 a row. */
export const cellColorTexture = (table: Uint8Array): DataTexture =>
  texture(table, 256, table.length / 1024, RGBAFormat, UnsignedByteType, 'RGBA8');

/** Copies values into a texture and uploads only what lies from the first to the last difference. */
export function updateTexels(target: DataTexture, values: Uint8Array | Uint16Array): void {
  const data = target.image.data as Uint8Array | Uint16Array;
  let first = 0;
  while (first < values.length && data[first] === values[first]) first++;
  if (first === values.length) return;
  let last = values.length - 1;
  while (data[last] === values[last]) last--;
  data.set(values.subarray(first, last + 1), first);
  // three counts in texels of four components, whatever the format, and takes one row at a time.
  const components = target.format === RGBAFormat ? 4 : 1;
  const { width: w } = target.image;
  const [from, to] = [Math.floor(first / components), Math.floor(last / components)];
  for (let row = Math.floor(from / w); row <= Math.floor(to / w); row++) {
    const start = Math.max(from, row * w);
    const end = Math.min(to, row * w + w - 1);
    target.addUpdateRange(start * 4, (end - start + 1) * 4);
  }
  target.needsUpdate = true;
}
