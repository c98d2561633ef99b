import fc from 'fast-check';
import { beforeAll, expect, it } from 'vitest';
import { startNodePictures } from '../../../../scripts/nodePlatform';
import { decodePicture } from './decodePicture';
import { decodePng, encodePng } from './png';

beforeAll(startNodePictures);

/** `bits` of the sample depth, and the kind of color, as the header tells them. */
const headerOf = (png: Uint8Array) => ({ bits: png[24], kind: { 2: 'rgb', 3: 'indexed', 6: 'rgba' }[png[25]!] });

const raster = fc
  .record({ width: fc.integer({ min: 1, max: 20 }), height: fc.integer({ min: 1, max: 20 }), most: fc.integer({ min: 1, max: 300 }), isOpaque: fc.boolean() })
  .chain(({ width, height, most, isOpaque }) => {
    const color = fc.tuple(...[0, 1, 2, 3].map((k) => (k === 3 && isOpaque ? fc.constant(255) : fc.constantFrom(0, 1, 127, 128, 254, 255))));
    return fc
      .tuple(fc.array(color, { minLength: most, maxLength: most }), fc.array(fc.nat(most - 1), { minLength: width * height, maxLength: width * height }))
      .map(([colors, of]) => ({ width, height, data: Uint8Array.from(of.flatMap((i) => colors[i]!)) }));
  }); // prettier-ignore

it('keeps every texel, as another reader sees it, too', () =>
  fc.assert(
    fc.property(raster, (own) => {
      const png = encodePng(own);
      expect(decodePng(png)).toEqual(own);
      expect(decodePicture('own.png', png).data).toEqual(own.data);
    }),
    { numRuns: 200 },
  ));

const numbered = (n: number, count: number) => [(n % count) & 255, (n % count) >> 8];

it('writes few colors as numbers of as few bits as they take, and never more bytes than colors would', () => {
  const of = (count: number, side = 64) => {
    const data = new Uint8Array(side * side * 4).fill(255);
    for (let t = 0; t < side * side; t++) data.set(numbered(Math.floor(Math.abs(Math.sin(t + 1)) * 1e6), count), t * 4);
    return encodePng({ width: side, height: side, data });
  };
  expect([1, 2, 3, 4, 5, 16, 17, 256, 257].map((n) => headerOf(of(n)))).toEqual([
    ...[1, 1, 2, 2, 4, 4, 8, 8].map((bits) => ({ bits, kind: 'indexed' })),
    { bits: 8, kind: 'rgb' },
  ]);
  // 64 colors, each once: their list alone is as long as they are.
  expect(headerOf(of(64, 8))).toEqual({ bits: 8, kind: 'rgb' });
});
