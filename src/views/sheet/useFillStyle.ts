import type { ById } from '@/core/ground/byId';
import { useMemo, type CSSProperties } from 'react';
import { hexFromRgb } from '@/core/ground/color/hex';
import type { Fill } from '@/core/kit/kit';
import { gradientAt, rasterSheet } from '@/core/sheet/raster';
import type { Pictures, Raster } from '@/core/ground/pictures/raster';
import { usePictures } from '@/state/chosen/pictures';

/** How a fill is drawn as a swatch: its color, its gradient, or its picture. */
export function useFillStyle(): (fill: Fill) => CSSProperties {
  const urls = usePictures((s) => s.urls);
  const rasters = usePictures((s) => s.settled);
  return useMemo(() => (fill) => fillStyle(fill, urls, rasters), [urls, rasters]);
}

function fillStyle(fill: Fill, urls: ById<string>, rasters: Pictures): CSSProperties {
  switch (fill.kind) {
    case 'solid':
      return { background: fill.color };
    case 'gradient': {
      const n = fill.bands ?? 24;
      const stops = Array.from({ length: n }, (_, i) => {
        const color = hexFromRgb(gradientAt(fill, n > 1 ? (i + (fill.bands ? 0.5 : 0)) / (fill.bands ? n : n - 1) : 0.5));
        return fill.bands ? `${color} ${(i / n) * 100}% ${((i + 1) / n) * 100}%` : `${color} ${(i / (n - 1)) * 100}%`;
      });
      return { background: `linear-gradient(${fill.axis === 'x' ? 90 : 180}deg, ${stops.join(', ')})` };
    }
    case 'corners':
      return { background: `center / 100% 100% url(${cornersUrl(fill)})` };
    case 'art': {
      const painted = fill.painted && rasters.get(fill.picture);
      const url = painted ? paintedUrl(painted) : urls[fill.picture];
      return url ? { background: `center / 100% 100% url(${url})`, imageRendering: 'pixelated' } : {};
    }
    case 'spare':
      return {};
  }
}

const drawn = new Map<string, string>();

/** A small picture of four corners; few are in use at a time. */
function cornersUrl(fill: Extract<Fill, { kind: 'corners' }>): string {
  const key = JSON.stringify(fill);
  const known = drawn.get(key);
  if (known) return known;
  const size = 16;
  const cell = { id: 1, role: '', rect: { x: 0, y: 0, w: size, h: size }, fill };
  const url = urlOf(rasterSheet({ id: '', name: '', width: size, height: size, padding: 0, filter: 'nearest', ramps: [], cells: [cell] }));
  if (drawn.size > 200) drawn.clear();
  drawn.set(key, url);
  return url;
}

function urlOf({ width, height, data }: Raster): string {
  const canvas = document.createElement('canvas');
  [canvas.width, canvas.height] = [width, height];
  canvas.getContext('2d')!.putImageData(new ImageData(new Uint8ClampedArray(data), width, height), 0, 0);
  return canvas.toDataURL();
}

const painted = new WeakMap<Raster, string>();
/** Pixels of a swatch's longer side at most. */
const swatchSide = 128;

/** Painted art as a swatch; of large art some texels stand for all. */
function paintedUrl(raster: Raster): string {
  const known = painted.get(raster);
  if (known) return known;
  const every = Math.ceil(Math.max(raster.width, raster.height) / swatchSide);
  const [width, height] = [Math.max(1, Math.floor(raster.width / every)), Math.max(1, Math.floor(raster.height / every))];
  const data = new Uint8Array(width * height * 4);
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      const from = (y * every * raster.width + x * every) * 4;
      data.set(raster.data.subarray(from, from + 4), (y * width + x) * 4);
    }
  const url = urlOf({ width, height, data });
  painted.set(raster, url);
  return url;
}
