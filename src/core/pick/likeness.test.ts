import fc from 'fast-check';
import { expect, it } from 'vitest';
import { adjacencyOf } from '../mesh/adjacency';
import { meshFromLists } from '../mesh/build';
import { likeFaces, likenessOf, partMaps } from './likeParts';

type V = [number, number, number];
const unit = fc.double({ min: 0, max: 1, noNaN: true });
const seed = fc.integer({ min: 1, max: 1e9 });
/** The same numbers for the same seed, 0 to 1. */
const randomFrom = (start: number) => {
  let s = start;
  return () => ((s = (Math.imul(s, 1103515245) + 12345) & 0x7fffffff) >>> 8) / 0x7fffff;
};

/** Quads of an uneven 4 × 3 floor, some of them cut in two, some left out, so that pieces hang together in points alone. */
function body(random: () => number, gaps: boolean): { positions: V[]; faces: number[][] } {
  const positions: V[] = [];
  for (let z = 0; z <= 3; z++) for (let x = 0; x <= 4; x++) positions.push([x + random() * 0.6, random() * 1.5, z + random() * 0.6]);
  const at = (x: number, z: number) => z * 5 + x;
  const faces: number[][] = [];
  for (let z = 0; z < 3; z++)
    for (let x = 0; x < 4; x++) {
      // A checkered rest: each quad meets the next in a point.
      if (gaps && (x + z) % 2) continue;
      const quad = [at(x, z), at(x, z + 1), at(x + 1, z + 1), at(x + 1, z)];
      if (random() < 0.4) faces.push([quad[0]!, quad[1]!, quad[2]!], [quad[0]!, quad[2]!, quad[3]!]);
      else faces.push(quad);
    }
  return { positions, faces };
}

/** Turned, mirrored, sized, moved; faces in another order, each from another corner on. `bent`: each place moved so far. */
function copyOf(of: ReturnType<typeof body>, random: () => number, mirrored: boolean, scale: number, bent: number) {
  const [a, b] = [random() * 6, random() * 6];
  const positions = of.positions.map(([x, y, z]): V => {
    const [px, pz] = [x * Math.cos(a) - z * Math.sin(a), x * Math.sin(a) + z * Math.cos(a)];
    const [qx, qy] = [px * Math.cos(b) - y * Math.sin(b), px * Math.sin(b) + y * Math.cos(b)];
    const nudge = () => (random() - 0.5) * bent;
    return [((mirrored ? -qx : qx) + nudge()) * scale + 40, (qy + nudge()) * scale, (pz + nudge()) * scale];
  });
  const order = of.faces.map((_, f) => f).sort(() => random() - 0.5);
  const faces = order.map((f) => {
    const face = mirrored ? [...of.faces[f]!].reverse() : of.faces[f]!;
    const from = Math.floor(random() * face.length);
    return [...face.slice(from), ...face.slice(0, from)];
  });
  return { positions, faces, order };
}

const both = (a: { positions: V[]; faces: number[][] }, b: { positions: V[]; faces: number[][] }) =>
  meshFromLists({
    positions: [...a.positions, ...b.positions].flat(),
    faces: [...a.faces, ...b.faces.map((f) => f.map((v) => v + a.positions.length))],
  });

it('a face is known again on a copy that is turned, mirrored, sized and numbered otherwise, and on nothing else', () => {
  fc.assert(
    fc.property(seed, fc.boolean(), fc.boolean(), unit, unit, (start, gaps, mirrored, size, pick) => {
      const random = randomFrom(start);
      const first = body(random, gaps);
      const n = first.faces.length;
      const copy = copyOf(first, random, mirrored, 0.2 + size * 4, 0);
      const mesh = both(first, copy);
      const adjacency = adjacencyOf(mesh);
      const f = Math.min(n - 1, Math.floor(pick * n));
      const image = n + copy.order.indexOf(f);
      expect([...likeFaces(mesh, adjacency, [f])]).toEqual([f, image]);
      expect([...likeFaces(mesh, adjacency, [image])]).toEqual([image, f]);
      expect(likenessOf(mesh, adjacency, f)).toMatchObject({ parts: 1 });
      expect(likenessOf(mesh, adjacency, f).difference).toBeLessThan(1e-3);
      const maps = [...partMaps({ mesh, adjacency, part: 0 }, { mesh, adjacency, part: 1 })];
      expect(maps).toHaveLength(1);
      for (const [from, to] of maps[0]!) expect(copy.order[to - n]).toBe(from);

      // Bent by a quarter of a face it is another part, though built alike.
      const bent = copyOf(first, random, mirrored, 1, 0.5);
      const other = both(first, bent);
      const around = adjacencyOf(other);
      expect([...likeFaces(other, around, [f])]).toEqual([f]);
      if (!gaps) {
        expect([...likeFaces(other, around, [f], { within: Infinity })]).toHaveLength(2);
        expect(likenessOf(other, around, f, { within: Infinity }).difference).toBeGreaterThan(0.02);
      }
      // One face more, and it is built otherwise.
      const more = both(first, { positions: [...copy.positions, [90, 0, 0]], faces: [...copy.faces, [copy.faces[0]![0]!, copy.faces[0]![1]!, copy.positions.length]] }); // prettier-ignore
      expect([...likeFaces(more, adjacencyOf(more), [f], { within: Infinity })]).toEqual([f]);
    }),
    { numRuns: 60, seed: 8 },
  );
});
