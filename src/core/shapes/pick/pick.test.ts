import { describe, expect, it } from 'vitest';
import { adjacencyOf } from '../mesh/adjacency';
import { takeFaces, meshFromLists } from '../mesh/build';
import { faceCount, type PolyMesh } from '../mesh/polyMesh';
import { box, grid } from '@tests/meshes';
import { isNearEdge, likeliestEdge, ringThrough } from './ring';
import { facesOf, widerScope, type Scope } from './scopes';
import { proposeAngles } from './proposeAngles';

/** A wall around, of 16 flat sides two quads high, with a floor and a lid. */
function drum(sides = 16): PolyMesh {
  const positions: number[] = [];
  for (const y of [0, 1, 2])
    for (let i = 0; i < sides; i++) positions.push(Math.sin((i / sides) * 2 * Math.PI), y, Math.cos((i / sides) * 2 * Math.PI));
  const faces: number[][] = [];
  for (const r of [0, 1])
    for (let i = 0; i < sides; i++)
      faces.push([r * sides + i, r * sides + ((i + 1) % sides), (r + 1) * sides + ((i + 1) % sides), (r + 1) * sides + i]);
  faces.push(
    Array.from({ length: sides }, (_, i) => sides - 1 - i),
    Array.from({ length: sides }, (_, i) => 2 * sides + i),
  );
  return meshFromLists({ positions, faces });
}

const take = (mesh: PolyMesh, scope: Scope, face: number, angle = 0, limit?: number) => {
  const faces = facesOf(
    { mesh, adjacency: adjacencyOf(mesh), cells: new Uint16Array(faceCount(mesh)) },
    { scope, face, angle, ...(limit !== undefined && { limit }) },
  );
  return faces && [...faces].sort((a, b) => a - b);
};

describe('scopes', () => {
  it('takes a curved wall in one click up to its creases, and a flat side of it by angle', () => {
    const mesh = drum();
    expect(take(mesh, 'smooth', 5, 30)).toEqual(Array.from({ length: 32 }, (_, i) => i));
    expect(take(mesh, 'flat', 5, 10)).toEqual([5, 21]);
    expect(take(mesh, 'flat', 5, 23)).toEqual([4, 5, 6, 20, 21, 22]);
    expect(take(mesh, 'part', 33)).toHaveLength(34);
    expect(take(mesh, 'face', 33)).toEqual([33]);
  });

  it('goes on over a flipped face, and gives up past its limit', () => {
    const flat = grid(6);
    const turned = takeFaces(
      flat,
      Uint32Array.from({ length: 36 }, (_, f) => f),
      Uint8Array.from({ length: 36 }, (_, f) => (f === 8 ? 1 : 0)),
    );
    expect(take(turned, 'flat', 0, 5)).toHaveLength(36);
    expect(take(turned, 'smooth', 0, 5)).toHaveLength(36);
    expect(take(flat, 'flat', 0, 5, 35)).toBeNull();
    expect(take(flat, 'flat', 0, 5, 36)).toHaveLength(36);
  });

  it('takes the same color anywhere on the model; bare faces by their material', () => {
    const mesh = box();
    const context = { mesh, adjacency: adjacencyOf(mesh), cells: Uint16Array.of(3, 0, 3, 0, 7, 0) };
    expect([...facesOf(context, { scope: 'color', face: 0, angle: 0 })!]).toEqual([0, 2]);
    expect([...facesOf(context, { scope: 'color', face: 1, angle: 0 })!]).toEqual([1, 3, 5]);
  });

  it('widens step by step and stays at the largest', () => {
    expect(['face', 'flat', 'smooth', 'neck', 'part', 'object', 'color'].map((s) => widerScope(s as Scope))).toEqual([
      'flat',
      'smooth',
      'neck',
      'part',
      'object',
      'object',
      'object',
    ]);
  });
});

it('proposes angles between a round wall and its rim', () => {
  const { flat, smooth } = proposeAngles(adjacencyOf(drum()));
  expect(flat).toBeGreaterThan(2);
  expect(flat).toBeLessThan(22);
  expect(smooth).toBeGreaterThan(23);
  expect(smooth).toBeLessThan(90);
});

describe('rings', () => {
  /**
   * A quad (0) whose east side leads round through three others to its north side; one quad each hangs at its
   * south and west.
   */
  const knot = meshFromLists({
    positions: [0, 0, 0, 1, 0, 0, 1, 1, 0, 0, 1, 0, 2, 0, 0, 2, 1, 0, 0, 2, 0, 1, 2, 0, 0, -1, 0, 1, -1, 0, -1, 1, 0, -1, 0, 0],
    faces: [
      [0, 1, 2, 3],
      [2, 1, 4, 5],
      [5, 4, 6, 7],
      [7, 6, 3, 2],
      [1, 0, 8, 9],
      [0, 3, 10, 11],
    ],
  });
  const adjacency = adjacencyOf(knot);

  it('that cross themselves hold each face once, and both ends', () => {
    expect([...ringThrough(knot, adjacency, 1)]).toEqual([5, 0, 1, 2, 3, 4]);
    for (const edge of [0, 2, 3]) expect([...ringThrough(knot, adjacency, edge)].sort()).toEqual([0, 1, 2, 3, 4, 5]);
  });

  it('are offered closed before open, and of two alike the shorter', () => {
    const rim: number[] = [];
    for (let y = 0; y < 4; y++) for (let a = 0; a < 12; a++) rim.push(Math.cos((a / 6) * Math.PI), y, Math.sin((a / 6) * Math.PI));
    const faces = Array.from({ length: 36 }, (_, i) => {
      const [y, a] = [Math.floor(i / 12), i % 12];
      return [y * 12 + a, (y + 1) * 12 + a, (y + 1) * 12 + ((a + 1) % 12), y * 12 + ((a + 1) % 12)];
    });
    const tube = meshFromLists({ positions: rim, faces });
    const round = adjacencyOf(tube);
    expect([...ringThrough(tube, round, 14 * 4 + likeliestEdge(round, 14))].sort((p, q) => p - q)).toEqual(
      Array.from({ length: 12 }, (_, a) => 12 + a),
    );
    const floor = adjacencyOf(grid(4));
    const strip = { ...grid(4), faceStart: grid(4).faceStart.slice(0, 9), cornerVertex: grid(4).cornerVertex.slice(0, 32) };
    expect(floor.areas).toHaveLength(16);
    const narrow = adjacencyOf({ ...strip, faceSlot: new Uint16Array(8), faceObject: new Uint16Array(8) });
    expect(ringThrough(strip, narrow, likeliestEdge(narrow, 1) + 4)).toHaveLength(2);
  });

  it('go by an edge that the pointer is near', () => {
    expect(isNearEdge(knot, adjacency, 0, 0, [0.5, 0.1, 0])).toBe(true);
    expect(isNearEdge(knot, adjacency, 0, 0, [0.5, 0.4, 0])).toBe(false);
  });
});
