import { Box2, DataTexture, Vector2, Vector3, type DataArrayTexture, type WebGLRenderer } from 'three';
import type { Pictures } from '@/core/ground/pictures/raster';
import type { Sheet } from '@/core/kit/kit';
import { isPainted, pixelsOf } from '@/core/kit/pixels';
import type { Touched } from '@/state/chosen/pictures';

/**
 * Draws texels that a stroke has touched into the layers of a texture of sheets, and gives the card that rectangle alone.
 * `false` where that cannot be: then the sheets are drawn anew. Art whose texels are blocks, or that goes on past its
 * border, is drawn anew as well.
 */
export function drawTouched(
  gl: WebGLRenderer,
  layers: DataArrayTexture,
  sheets: readonly Sheet[],
  rasters: Pictures,
  { art, rect }: Touched,
): boolean {
  const { width, height } = layers.image;
  const data = layers.image.data as Uint8Array;
  const to = new Uint32Array(data.buffer, data.byteOffset, data.byteLength / 4);
  for (const [layer, sheet] of sheets.entries())
    for (const { rect: at, fill } of sheet.cells) {
      if (!isPainted(fill) || pixelsOf(fill.picture) !== art) continue;
      const raster = rasters.get(fill.picture);
      if (!raster || sheet.padding > 0 || raster.width !== at.w || raster.height !== at.h || at.x + at.w > width || at.y + at.h > height)
        return false;
      const from = new Uint32Array(raster.data.buffer, raster.data.byteOffset, raster.width * raster.height);
      for (let y = rect.y; y < rect.y + rect.h; y++) {
        const row = y * raster.width + rect.x;
        to.set(from.subarray(row, row + rect.w), (layer * height + at.y + y) * width + at.x + rect.x);
      }
      const source = new DataTexture(raster.data as Uint8Array<ArrayBuffer>, raster.width, raster.height);
      const region = new Box2(new Vector2(rect.x, rect.y), new Vector2(rect.x + rect.w, rect.y + rect.h));
      gl.copyTextureToTexture(source, layers, region, new Vector3(at.x + rect.x, at.y + rect.y, layer));
    }
  return true;
}
