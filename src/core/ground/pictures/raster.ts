/** Rows from the top, 4 bytes a texel: sRGB and alpha. */
export interface Raster {
  width: number;
  height: number;
  data: Uint8Array;
}

/** Rasters of frozen pictures and art, by content address. */
export type Pictures = ReadonlyMap<string, Raster>;
