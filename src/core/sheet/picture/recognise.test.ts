import { gradientOf } from '@tests/parts';
import fc from 'fast-check';
import { beforeAll, describe, expect, it } from 'vitest';
import { rgbFromHex } from '../../ground/color/hex';
import { labDistance, labFromRgb } from '../../ground/color/oklab';
import { decodePicture } from '../../ground/pictures/decodePicture';
import { solid, type Fill, type Rect } from '../../kit/kit';
import type { Raster } from '../../ground/pictures/raster';
import { distinctColors, drawBlocks, startDecoder, toJpeg } from '@tests/palettePictures';
import { colorsOfFinding, countBlocks, recognise } from './readBlocks';

beforeAll(startDecoder);

const near = (a: string, b: string) => labDistance(labFromRgb(rgbFromHex(a)), labFromRgb(rgbFromHex(b)));
const expectColors = (found: string[], wanted: string[], within = 0.001) => {
  expect(found).toHaveLength(wanted.length);
  found.forEach((hex, i) => expect(near(hex, wanted[i]!)).toBeLessThanOrEqual(within));
};

interface Layout {
  columns: number;
  rows: number;
  size: number;
  gutter: number;
  margin: number;
  seed: number;
}

function blocksOf({ columns, rows, size, gutter, margin, seed }: Layout): { raster: Raster; colors: string[] } {
  const colors = distinctColors(columns * rows, seed);
  const blocks = colors.map((color, i) => ({
    rect: {
      x: margin + (i % columns) * (size + gutter),
      y: margin + Math.floor(i / columns) * (size + gutter),
      w: size,
      h: size,
    },
    fill: solid(color),
  }));
  const side = (n: number) => margin * 2 + n * size + (n - 1) * gutter;
  return { raster: drawBlocks(side(columns), side(rows), [255, 255, 255, 255], blocks), colors };
}

describe('recognises', () => {
  const layouts = fc.record({
    columns: fc.integer({ min: 2, max: 9 }),
    rows: fc.integer({ min: 2, max: 7 }),
    size: fc.integer({ min: 4, max: 40 }),
    gutter: fc.constantFrom(0, 0, 1, 2, 4),
    margin: fc.constantFrom(0, 0, 2),
    seed: fc.nat(500),
  });

  it('grids of blocks of any size, with gutters and margins', () => {
    fc.assert(
      fc.property(layouts, (l) => {
        const layout = { ...l, gutter: Math.min(l.gutter, Math.floor(l.size / 3)), margin: l.gutter ? l.margin : 0 };
        const { raster, colors } = blocksOf(layout);
        const found = recognise(raster);
        expect(found.kind).toBe('blocks');
        expect(found.grid).toEqual({
          columns: layout.columns,
          rows: layout.rows,
          block: [layout.size, layout.size],
          gutter: layout.gutter,
        });
        expectColors(colorsOfFinding(found), colors);
      }),
      { seed: 8, numRuns: 60 },
    );
  });

  it('the same through JPEG', () => {
    fc.assert(
      fc.property(layouts, fc.integer({ min: 80, max: 95 }), (l, quality) => {
        const layout = { ...l, size: Math.max(16, l.size), gutter: l.gutter ? 4 : 0, margin: l.gutter ? l.margin * 2 : 0 };
        const { raster, colors } = blocksOf(layout);
        const found = recognise(decodePicture('p.jpg', toJpeg(raster, quality)));
        expect(found.blocks.length).toBe(colors.length);
        expectColors(colorsOfFinding(found), colors, 0.03);
      }),
      { seed: 2, numRuns: 30 },
    );
  });

  it('one color a pixel', () => {
    for (const [columns, rows] of [
      [16, 1],
      [8, 4],
      [16, 16],
    ] as const) {
      const { raster, colors } = blocksOf({ columns, rows, size: 1, gutter: 0, margin: 0, seed: 3 });
      const found = recognise(raster);
      expect(found.kind).toBe('pixels');
      expectColors(colorsOfFinding(found), colors);
    }
  });

  it('lists of one color a pixel with twins and close neighbours', () => {
    const colors = ['#101010', '#101010', '#141416', '#ffffff', '#ffffff'];
    const blocks = colors.map((color, i) => ({ rect: { x: i, y: 0, w: 1, h: 1 }, fill: solid(color) }));
    expect(colorsOfFinding(recognise(drawBlocks(5, 1, [0, 0, 0, 0], blocks)))).toEqual(colors);
  });

  it('unequal columns, empty blocks, transparent blocks', () => {
    const xs = [0, 10, 40, 60, 64];
    const colors = distinctColors(8, 40);
    const blocks = colors.map((color, i) => ({
      rect: { x: xs[i % 4]!, y: Math.floor(i / 4) * 20, w: xs[(i % 4) + 1]! - xs[i % 4]!, h: 20 },
      fill: solid(i > 5 ? '#ffffff' : color),
    }));
    const found = recognise(drawBlocks(64, 40, [0, 0, 0, 0], blocks));
    expect(countBlocks(found)).toEqual({ colors: 6, gradients: 0, empty: 2, art: 0 });
    expect(found.blocks.map((b) => b.rect)).toEqual(blocks.map((b) => b.rect));
    const clear = recognise(
      drawBlocks(
        64,
        40,
        [0, 0, 0, 0],
        blocks.filter((_, i) => i !== 2),
      ),
    );
    expect(clear.blocks[2]!.fill.kind).toBe('spare');
  });

  const strip = (a: string, b: string, axis: 'x' | 'y' = 'y') => gradientOf(axis, a, b);
  const ends = [
    ['#1d2b53', '#e8d7a0'],
    ['#5a1e1e', '#f2a65a'],
    ['#0b3d2e', '#c9e4ca'],
  ] as const;

  it('gradients in columns and in rows, with their stops', () => {
    const columns = ends.map(([a, b], i): { rect: Rect; fill: Fill } => ({ rect: { x: i * 24, y: 0, w: 24, h: 128 }, fill: strip(a, b) }));
    for (const raster of [
      drawBlocks(72, 128, [0, 0, 0, 255], columns),
      decodePicture('g.jpg', toJpeg(drawBlocks(72, 128, [0, 0, 0, 255], columns), 92)),
    ]) {
      const found = recognise(raster);
      expect([found.kind, found.blocks.length]).toEqual(['gradients', 3]);
      found.blocks.forEach(({ rect, fill }, i) => {
        expect(rect).toEqual(columns[i]!.rect);
        if (fill.kind !== 'gradient') throw new Error(`block ${i} is ${fill.kind}`);
        expect(fill.axis).toBe('y');
        expectColors([fill.stops[0]!.color, fill.stops.at(-1)!.color], [...ends[i]!], 0.03);
      });
    }
    const rows = ends.map(([a, b], i): { rect: Rect; fill: Fill } => ({
      rect: { x: 0, y: i * 24, w: 200, h: 24 },
      fill: strip(a, b, 'x'),
    }));
    const found = recognise(drawBlocks(200, 72, [0, 0, 0, 255], rows));
    expect(found.blocks.map((b) => b.fill.kind === 'gradient' && b.fill.axis)).toEqual(['x', 'x', 'x']);
  });

  it('blocks and gradients beside each other', () => {
    const colors = distinctColors(8, 7);
    const blocks = colors.map((color, i) => ({ rect: { x: (i % 2) * 16, y: Math.floor(i / 2) * 16, w: 16, h: 16 }, fill: solid(color) }));
    const strips = ends.slice(0, 2).map(([a, b], i) => ({ rect: { x: 32 + i * 16, y: 0, w: 16, h: 64 }, fill: strip(a, b) }));
    const found = recognise(drawBlocks(64, 64, [0, 0, 0, 255], [...blocks, ...strips]));
    expect(found.kind).toBe('mixed');
    expect(countBlocks(found)).toEqual({ colors: 8, gradients: 2, empty: 0, art: 0 });
  });

  it('nothing in a photograph, which stays one piece of art', () => {
    const data = new Uint8Array(256 * 256 * 4);
    let seed = 1;
    for (let i = 0; i < data.length; i++) {
      seed = (seed * 1664525 + 1013904223) >>> 0;
      const [x, y] = [(i >> 2) % 256, i >> 10];
      data[i] = i % 4 === 3 ? 255 : 128 + 70 * Math.sin(x / 17 + (i % 4)) * Math.cos(y / 23) + (seed >>> 27);
    }
    const found = recognise({ width: 256, height: 256, data });
    expect(found.kind).toBe('picture');
    expect(found.blocks).toEqual([{ rect: { x: 0, y: 0, w: 256, h: 256 }, fill: { kind: 'art' } }]);
  });
});
