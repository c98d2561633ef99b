import type { ById } from '@/core/ground/byId';
import { useMemo, type CSSProperties } from 'react';
import { hexFromRgb } from '@/core/ground/color/hex';
import type { Fill } from '@/core/kit/kit';
import { gradientAt, rasterSheet } from '@/core/sheet/raster';
import { usePictures } from '@/state/chosen/pictures';

/** How a fill is drawn as a swatch: its color, its gradient, or its picture. */
export function useFillStyle(): (fill: Fill) => CSSProperties {
  const urls = usePictures((s) => s.urls);
  return useMemo(() => (fill) => fillStyle(fill, urls), [urls]);
}

function fillStyle(fill: Fill, urls: ById<string>): CSSProperties {
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
    case 'art':
      return urls[fill.picture] ? { background: `center / 100% 100% url(${urls[fill.picture]})`, imageRendering: 'pixelated' } : {};
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
  const { data } = rasterSheet({ id: '', name: '', width: size, height: size, padding: 0, filter: 'nearest', ramps: [], cells: [cell] });
  const canvas = document.createElement('canvas');
  canvas.width = canvas.height = size;
  canvas.getContext('2d')!.putImageData(new ImageData(new Uint8ClampedArray(data), size, size), 0, 0);
  const url = canvas.toDataURL();
  if (drawn.size > 200) drawn.clear();
  drawn.set(key, url);
  return url;
}
