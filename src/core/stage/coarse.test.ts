import { expect, test } from 'vitest';
import { boxFor, coarsened, fewest, type TintedShape } from './coarse';

/** A square in the plane z = 0 of so many quads a side, red on its left half and blue on its right, and a speck above it. */
function carpet(n: number): TintedShape {
  const positions: number[] = [];
  const tints: number[] = [];
  const triangles: number[] = [];
  for (let i = 0; i < n; i++)
    for (let j = 0; j < n; j++) {
      const v = positions.length / 3;
      for (const [x, y] of [
        [0, 0],
        [1, 0],
        [1, 1],
        [0, 1],
      ] as const) {
        positions.push((i + x) / n, (j + y) / n, 0);
        tints.push(...(i < n / 2 ? [255, 0, 0, 255] : [0, 0, 255, 255]));
      }
      triangles.push(v, v + 1, v + 2, v, v + 2, v + 3);
    }
  return {
    positions: Float32Array.from(positions),
    normals: Float32Array.from(positions, (_, i) => (i % 3 === 2 ? 1 : 0)),
    tints: Uint8Array.from(tints),
    triangles: Uint32Array.from(triangles),
  };
}

const signedArea = ({ positions: p, triangles }: TintedShape) => {
  let sum = 0;
  for (let t = 0; t < triangles.length; t += 3) {
    const [a, b, c] = [0, 1, 2].map((k) => triangles[t + k]! * 3) as [number, number, number];
    sum += ((p[b]! - p[a]!) * (p[c + 1]! - p[a + 1]!) - (p[b + 1]! - p[a + 1]!) * (p[c]! - p[a]!)) / 2;
  }
  return sum;
};

test('a coarse shape covers what the whole one did, looks the same way and keeps its colors, with few triangles', () => {
  const whole = carpet(40);
  const few = coarsened(whole, 8);
  expect(few.triangles.length).toBeLessThan(whole.triangles.length / 10);
  expect(signedArea(few)).toBeGreaterThan(0.75);
  expect(signedArea(few)).toBeLessThanOrEqual(1.0001);
  expect([...few.normals].every((v, i) => v === (i % 3 === 2 ? 1 : 0))).toBe(true);
  const diagonal = Math.SQRT2 / 8;
  for (let v = 0; v < few.positions.length / 3; v++) {
    const [x, red, blue] = [few.positions[v * 3]!, few.tints[v * 4]!, few.tints[v * 4 + 2]!];
    if (x < 0.5 - diagonal) expect([red, blue]).toEqual([255, 0]);
    if (x > 0.5 + diagonal) expect([red, blue]).toEqual([0, 255]);
  }
});

test('a box has the bounds of its shape, sides that look outward, each in the color of what looks there', () => {
  const box = boxFor({
    positions: Float32Array.from([-1, 2, 3, 4, 5, 6]),
    normals: Float32Array.from([1, 0, 0, 0, -1, 0]),
    tints: Uint8Array.from([200, 0, 0, 255, 0, 100, 0, 255]),
    triangles: new Uint32Array(),
  });
  const { positions: p, normals: n, triangles } = box;
  let volume = 0;
  for (let t = 0; t < triangles.length; t += 3) {
    const [a, b, c] = [0, 1, 2].map((k) => [...p.subarray(triangles[t + k]! * 3, triangles[t + k]! * 3 + 3)]) as [
      number[],
      number[],
      number[],
    ];
    const cross = [b[1]! * c[2]! - b[2]! * c[1]!, b[2]! * c[0]! - b[0]! * c[2]!, b[0]! * c[1]! - b[1]! * c[0]!];
    volume += (a[0]! * cross[0]! + a[1]! * cross[1]! + a[2]! * cross[2]!) / 6;
  }
  // Turned inward it would be negative.
  expect(volume).toBeCloseTo(5 * 3 * 3, 4);
  const tintOf = (axis: number, way: number) => {
    const v = [...Array(24).keys()].find((i) => n[i * 3 + axis] === way)!;
    return [...box.tints.subarray(v * 4, v * 4 + 3)];
  };
  expect(tintOf(0, 1)).toEqual([200, 0, 0]);
  expect(tintOf(1, -1)).toEqual([0, 100, 0]);
  expect([...p].filter((_, i) => i % 3 === 1).every((y) => y === 2 || y === 5)).toBe(true);
});

test('the finest of some grids is taken that has no more triangles than wished, and a box where those are hardly any', () => {
  const shape = carpet(24);
  const tried = [6, 5, 4, 3].map((cells) => coarsened(shape, cells));
  const counts = tried.map((t) => t.triangles.length / 3);
  expect(counts).toEqual([...new Set(counts)].sort((a, b) => b - a));
  for (let most = counts[3]!; most <= counts[0]! + 1; most++) {
    const at = counts.findIndex((n) => n <= most);
    expect(fewest(shape, most)).toEqual(tried[at]);
  }
  expect(fewest(shape, counts[3]! - 1)).toEqual(boxFor(shape));
  // Two triangles, or five, say less than a box; six do not.
  for (const n of [2, 5, 6]) {
    const few = { ...shape, triangles: shape.triangles.slice(0, 3) };
    const fan = Array.from({ length: n }, (_, i) => [
      Math.cos(i),
      Math.sin(i),
      0,
      Math.cos(i + 0.9),
      Math.sin(i + 0.9),
      0,
      0,
      0,
      i % 2,
    ]).flat();
    const own = { ...few, positions: Float32Array.from(fan), normals: new Float32Array(fan.length), tints: new Uint8Array((fan.length / 3) * 4), triangles: Uint32Array.from({ length: n * 3 }, (_, i) => i) }; // prettier-ignore
    const left = coarsened(own, 6).triangles.length / 3;
    expect(fewest(own, 100)).toEqual(left >= 6 ? coarsened(own, 6) : boxFor(own));
  }
});
