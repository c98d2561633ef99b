import { expect, it } from 'vitest';
import { outlineOfTexels } from './litOutline';

const drawn = (...of: Parameters<typeof outlineOfTexels>) => {
  const { width, height, pixels } = outlineOfTexels(...of);
  return Array.from({ length: height }, (_, y) => Array.from(pixels.subarray(y * width, (y + 1) * width), (p) => (p === 0 ? '.' : p === 0xffffffff ? 'o' : '#')).join('')); // prettier-ignore
};

it('ink goes along both sides of a border, white beside it, also beyond the picture', () => {
  // Two of six texels in a row, five pixels each, and those of two rows.
  expect(drawn({ width: 3, height: 2 }, Uint32Array.of(1, 2, 5), 18, 12)).toEqual([
    '........oooooooooooo..',
    '........############..',
    '......o##############o',
    '......o##oooooooooo##o',
    '......o##o........o##o',
    '......o##o........o##o',
    '......o##ooooo....o##o',
    '......o#######....o##o',
    '........#######o..o##o',
    '........ooooo##o..o##o',
    '............o##o..o##o',
    '............o##o..o##o',
    '............o##oooo##o',
    '............o########o',
    '..............######..',
    '..............oooooo..',
  ]);
});

it('texels that are smaller than a pixel are seen nevertheless, up to the last', () => {
  const far = drawn({ width: 40, height: 20 }, Uint32Array.of(799, 0, 1, 2), 20, 10);
  expect([far.length, far[2], far[11]]).toEqual([14, 'o####o..................', '...................o###o']);
  expect(drawn({ width: 40, height: 20 }, new Uint32Array(), 20, 10).join('')).toBe('.'.repeat(24 * 14));
  // The whole of it is outlined at its border alone.
  const all = drawn({ width: 40, height: 20 }, Uint32Array.from({ length: 800 }, (_, t) => t), 20, 10); // prettier-ignore
  expect(all[6]).toBe('o##o................o##o');
});

it('many that are scattered and small are dotted, so that what is there is seen, and nothing else is', () => {
  const size = { width: 100, height: 100 };
  const some = (every: number, most = 1e6) =>
    Uint32Array.from({ length: 10_000 }, (_, t) => t).filter(
      (t) => ((t % 100) + Math.floor(t / 100)) % 2 === 0 && t % every === 0 && t < most,
    );
  const isDot = (u: number, v: number) => u % 3 === 0 && v % 3 === 0;
  drawn(size, some(1), 100, 100).forEach((row, v) =>
    [...row].forEach((c, u) => {
      const isLit = u >= 2 && v >= 2 && u < 102 && v < 102 && (u + v) % 2 === 0;
      expect([u, v, c]).toEqual([u, v, isLit && isDot(u, v) ? 'o' : '.']);
    }),
  );
  // Few are outlined; so is what hangs together.
  expect(drawn(size, some(1, 3000), 100, 100)[2]!.slice(0, 4)).toBe('o###');
  expect(
    drawn(
      size,
      Uint32Array.from({ length: 10_000 }, (_, t) => t),
      100,
      100,
    )[50]!.slice(0, 6),
  ).toBe('o##o..');
});
