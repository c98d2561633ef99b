import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { adjacencyOf } from '@/core/shapes/mesh/adjacency';
import { meshFromLists } from '@/core/shapes/mesh/build';
import { boundsOf, measureFaces } from '@/core/shapes/mesh/measure';
import { faceCount, type PolyMesh } from '@/core/shapes/mesh/polyMesh';
import { triangulate } from '@/core/shapes/mesh/triangulate';
import type { PresentView } from '@/core/shapes/view/presentView';
import { framingMatrix } from '@/core/shapes/view/thumbnail';
import { buildTree, type Shown } from './rays';
import { facesThrough, rasterOf, seenFaces, smallFacesInOutline } from './facesInOutline';
import type { LoadedMesh } from './residents';
import { box, boxFaces, grid } from '@tests/meshes';
import { alongStroke, facesThroughBrush, facesUnderBrush, type Brush } from '@/core/shapes/pick/brush';
import { facesSeenInside, isInside, maskOf, ownersOf, projectVertices } from '@/core/shapes/pick/outline';

const size = 200;
/** What an orthographic camera sees from a direction. */
function lookAt(mesh: PolyMesh, from: [number, number, number]) {
  const triangles = triangulate(mesh, measureFaces(mesh).normals);
  const matrix = framingMatrix(boundsOf(mesh), 1.25, from);
  const ahead = from.map((v) => -v / Math.hypot(...from)) as [number, number, number];
  const loaded = { mesh, triangles } as LoadedMesh;
  const view: PresentView = { matrix, width: size, height: size, eye: [0, 0, 0], ahead };
  const tree = buildTree(loaded);
  const screen = projectVertices(mesh, matrix, size, size);
  const take = (points: number[], side: 'near' | 'through', reach: 'touched' | 'inside', shown?: Shown) => {
    const outline = Float32Array.from(points);
    if (side === 'through') return [...facesThrough(loaded, view, outline, reach, shown)];
    const raster = rasterOf(loaded, view, shown);
    const seen = facesSeenInside(mesh, raster, outline, reach, () => screen);
    const small = smallFacesInOutline(loaded, tree, view, outline, reach, ownersOf(raster, faceCount(mesh)), shown);
    return [...seen, ...small].sort((p, q) => p - q);
  };
  const seen = (shown?: Shown) => [
    ...seenFaces(
      loaded,
      tree,
      view,
      Uint32Array.from({ length: faceCount(mesh) }, (_, f) => f),
      shown,
    ),
  ];
  return { take, seen, screen, raster: rasterOf(loaded, view) };
}

const all = [0, 0, size, 0, size, size, 0, size];

describe('an outline', () => {
  it('takes only what is seen on the near side, everything through the model, and whole faces where asked', () => {
    const cube = lookAt(box(), [0, 0, 1]);
    expect(cube.take(all, 'near', 'touched')).toEqual([1]);
    expect(cube.take(all, 'through', 'touched')).toHaveLength(6);
    const floor = lookAt(grid(4), [0, 1, 0]);
    const half = [0, 0, size / 2 - 10, 0, size / 2 - 10, size, 0, size];
    expect(floor.take(half, 'near', 'touched')).toHaveLength(8);
    expect(floor.take(half, 'near', 'inside')).toHaveLength(4);
    expect(floor.take(all, 'near', 'inside')).toHaveLength(16);
  });

  it('takes faces that are too small for a pixel where a ray meets them first, and not where something hides them', () => {
    const tiny = (at: number[], s: number) => Array.from(box().positions).map((v, i) => (v - 0.5) * s + at[i % 3]!);
    const build = (z: number) =>
      meshFromLists({
        positions: [...box(4).positions, ...tiny([2.01, 2.01, z], 0.001)],
        faces: [...boxFaces, ...boxFaces.map((f) => f.map((v) => v + 8))],
      });
    expect(lookAt(build(4.2), [0, 0, 1]).take(all, 'near', 'touched')).toContain(7);
    expect(lookAt(build(2), [0, 0, 1]).take(all, 'near', 'touched')).toEqual([1]);
  });

  it('passes over what is hidden or cut away, and over what is turned to the eye where only the faces behind are shown', () => {
    const cube = lookAt(box(), [0, 0, 1]);
    expect(cube.seen()).toEqual([1]);
    const behind: Shown = { hidden: null, cut: null, behind: true };
    expect(cube.seen(behind)).toEqual([0]);
    expect(cube.take(all, 'near', 'touched', behind)).toEqual([0]);
    const hidden: Shown = { hidden: Uint8Array.from([0, 1, 0, 0, 0, 0]), cut: null };
    expect(cube.seen(hidden)).toEqual([0]);
    expect(cube.seen({ hidden: null, cut: { axis: 2, offset: 0.5 } })).toContain(0);
  });

  it('has the same inside for a mask as for its points, whatever its shape', () => {
    const point = fc.double({ min: -5, max: 45, noNaN: true });
    fc.assert(
      fc.property(fc.array(point, { minLength: 6, maxLength: 16 }), (numbers) => {
        const outline = Float32Array.from(numbers.slice(0, numbers.length & ~1));
        const mask = maskOf(outline, 40, 40);
        for (let i = 0; i < 1600; i += 7) expect(mask[i] === 1).toBe(isInside(outline, (i % 40) + 0.5, Math.floor(i / 40) + 0.5));
      }),
      { seed: 9, numRuns: 30 },
    );
  });
});

it('a brush takes what lies under it and stops at sharp edges', () => {
  const step = grid(6, (x) => (x >= 3 ? 2 : 0));
  const { raster, screen } = lookAt(step, [0, 1, 0.001]);
  const adjacency = adjacencyOf(step);
  const at = (angle: number, rest: Partial<Brush> = {}) =>
    facesUnderBrush(step, raster, adjacency, { x: 60, y: 100, radius: 200, angle, reach: 'touched', ...rest }, screen).length;
  expect(at(180)).toBeGreaterThan(at(40));
  expect(at(40)).toBe(12);
  expect(at(90, { x: 2, y: 2, radius: 1 })).toBe(0);
  // Of the faces that a brush touches only some lie wholly under it.
  const inside = at(40, { radius: 40, reach: 'inside' });
  expect(inside).toBeGreaterThan(0);
  expect(inside).toBeLessThan(at(40, { radius: 40 }));
  expect(at(40, { radius: 10, reach: 'inside' })).toBe(0);

  // Through the model it starts from every face under its middle, the far ones too.
  const cube = lookAt(box(), [0, 0, 1]);
  const through = (angle: number) =>
    facesThroughBrush(box(), adjacencyOf(box()), cube.screen, { x: 100, y: 100, radius: 300, angle, reach: 'touched' });
  expect(through(40).sort()).toEqual([0, 1]);
  expect(through(100)).toHaveLength(6);
  expect(alongStroke([0, 0], [100, 0], 20)).toHaveLength(10);
  expect(alongStroke([0, 0], [100, 0], 20).at(-1)).toEqual([100, 0]);
});
