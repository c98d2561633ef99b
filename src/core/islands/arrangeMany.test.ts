import { box } from '@tests/meshes';
import fc from 'fast-check';
import { expect, it } from 'vitest';
import type { Cell } from '../kit/kit';
import { adjacencyOf } from '../shapes/mesh/adjacency';
import { meshFromLists } from '../shapes/mesh/build';
import { arranged, eachFilling, stacked, type Arranging } from './arrangeMany';
import { boundsOf } from './islandsOf';

/** Three faces of 1 × 2, 3 × 1 and 1 × 1, at (1, 1), (4, 2) and (9, 6). */
const faceStart = Uint32Array.of(0, 4, 8, 12);
const islands = [Uint32Array.of(0), Uint32Array.of(1), Uint32Array.of(2)];
const rect = (x: number, y: number, w: number, h: number) => [x, y, x + w, y, x + w, y + h, x, y + h];
const texels = Float32Array.from([...rect(1, 1, 1, 2), ...rect(4, 2, 3, 1), ...rect(9, 6, 1, 1)]);
const lows = (out: Float32Array) => islands.map((f) => boundsOf(f, faceStart, out)).map(([x, , y]) => [x, y]);

it('puts islands in line, and at even distances, between the outermost', () => {
  const at = (how: Arranging) => lows(arranged(islands, faceStart, texels, how));
  expect(at('left')).toEqual([[1, 1], [1, 2], [1, 6]]); // prettier-ignore
  expect(at('right')).toEqual([[9, 1], [7, 2], [9, 6]]); // prettier-ignore
  expect(at('middle')).toEqual([[5, 1], [4, 2], [5, 6]]); // prettier-ignore
  expect(at('top')).toEqual([[1, 1], [4, 1], [9, 1]]); // prettier-ignore
  expect(at('bottom')).toEqual([[1, 5], [4, 6], [9, 6]]); // prettier-ignore
  expect(at('centre')).toEqual([[1, 3], [4, 3.5], [9, 3.5]]); // prettier-ignore
  // 9 texels from 1 to 10, 5 of them taken: 2 between each.
  expect(at('evenly across')).toEqual([[1, 1], [4, 2], [9, 6]]); // prettier-ignore
  expect(at('evenly down')).toEqual([[1, 1], [4, 4], [9, 6]]); // prettier-ignore
  expect(lows(arranged(islands.slice(0, 1), faceStart, texels, 'evenly down'))[0]).toEqual([1, 1]);
});

it('stacks what has one shape, however it is turned or flipped, and names the others', () => {
  fc.assert(
    fc.property(fc.integer({ min: 0, max: 3 }), fc.constantFrom(1, -1), fc.double({ min: -9, max: 9, noNaN: true }), (turns, flip, by) => {
      const shape = [0, 0, 4, 0, 3, 2, 0, 1];
      const other = shape.map((v, i) => (i % 2 ? v : v * flip));
      for (let k = 0; k < turns; k++) for (let i = 0; i < 8; i += 2) [other[i], other[i + 1]] = [-other[i + 1]!, other[i]!];
      const all = Float32Array.from([...shape, ...other.map((v) => v + by), ...rect(1, 1, 4, 2)]);
      const { texels: out, unlike } = stacked(islands, faceStart, all);
      expect(unlike).toEqual([2]);
      expect([...out.slice(16)]).toEqual([...all.slice(16)]);
      for (let i = 0; i < 8; i += 2)
        expect([0, 2, 4, 6].some((k) => Math.hypot(out[8 + i]! - shape[k]!, out[9 + i]! - shape[k + 1]!) < 1e-4)).toBe(true);
    }),
    { seed: 4, numRuns: 60 },
  );
});

it('lets every face fill the cell, upright, up to its clearance', () => {
  const cell: Cell = { id: 1, rect: { x: 8, y: 0, w: 16, h: 8 }, role: '', fill: { kind: 'art', picture: 'a' } };
  const crate = box();
  const all = Uint32Array.from(Array(6).keys());
  const out = eachFilling(crate, adjacencyOf(crate), all, cell, 1);
  for (const f of all) expect(boundsOf([f], crate.faceStart, out)).toEqual([9, 23, 1, 7]);
  // The sides: what is low on the model is low on the sheet.
  const y = (c: number) => crate.positions[crate.cornerVertex[c]! * 3 + 1]!;
  for (const f of [0, 1, 4, 5]) for (let c = f * 4; c < f * 4 + 4; c++) expect(out[c * 2 + 1]).toBe(y(c) === 0 ? 7 : 1);
  const one = meshFromLists({ positions: [0, 0, 0, 2, 0, 0, 0, 1, 0], faces: [[0, 1, 2]] });
  expect([...eachFilling(one, adjacencyOf(one), Uint32Array.of(0), cell, 0)]).toEqual([8, 8, 24, 8, 8, 0]);
});
