import fc from 'fast-check';
import { OrthographicCamera, PerspectiveCamera, Vector3, type DataTexture } from 'three';
import { describe, expect, it, vi } from 'vitest';
import { adjacencyOf } from '@/core/shapes/mesh/adjacency';
import { boundsOf } from '@/core/shapes/mesh/measure';
import { triangulate } from '@/core/shapes/mesh/triangulate';
import type { LoadedMesh } from '@/workers/residents';
import { box, grid } from '@tests/meshes';
import { faceTextures, updateTexels } from './faceTextures';
import { faceTowards } from './faceTowards';
import { frameBounds } from './framing';
import { gridStep } from './gridStep';
import { edgeSegments, modelGeometry, outlineSegments } from './modelGeometry';

const load = (mesh: ReturnType<typeof box>): LoadedMesh => ({
  id: 'm',
  mesh,
  adjacency: adjacencyOf(mesh),
  triangles: triangulate(mesh),
  bounds: boundsOf(mesh),
  angles: { flat: 10, smooth: 60 },
  asRead: new Uint8Array((mesh.faceStart.length - 1) * 4),
  pictures: null,
});

describe('textures by face', () => {
  it('end up holding the values, and upload no texel outside the first and last difference, one row at a time', () => {
    const values = fc.array(fc.tuple(fc.nat(2999), fc.nat(9)), { maxLength: 12 });
    fc.assert(
      fc.property(values, values, (first, second) => {
        const { cells } = faceTextures(new Uint8Array(3000 * 4));
        const now = new Uint16Array(3000);
        for (const changes of [first, second]) {
          const before = (cells.image.data as unknown as Uint16Array).slice();
          cells.clearUpdateRanges();
          for (const [face, cell] of changes) now[face] = cell;
          updateTexels(cells, now);
          expect([...(cells.image.data as unknown as Uint16Array).slice(0, 3000)]).toEqual([...now]);
          const changed = [...now.keys()].filter((f) => now[f] !== before[f]);
          const uploaded = (cells as DataTexture).updateRanges.map((r) => [r.start / 4, r.count / 4]);
          for (const f of changed) expect(uploaded.some(([start, count]) => f >= start! && f < start! + count!)).toBe(true);
          for (const [start, count] of uploaded) {
            expect(Math.floor(start! / 1024)).toBe(Math.floor((start! + count! - 1) / 1024));
            expect(start! >= changed[0]! && start! + count! - 1 <= changed.at(-1)!).toBe(true);
          }
        }
      }),
      { seed: 11, numRuns: 60 },
    );
  });
});

describe('geometry', () => {
  it('has a vertex for each corner that knows its face, every edge once, and the outline of any set', () => {
    const floor = load(grid(3));
    const geometry = modelGeometry(floor);
    expect([geometry.attributes.position!.count, geometry.index!.count]).toEqual([36, 54]);
    expect([...(geometry.attributes.faceId!.array as Uint32Array)].filter((_, c) => c % 4 === 0)).toEqual([0, 1, 2, 3, 4, 5, 6, 7, 8]);
    expect(edgeSegments(floor).length / 6).toBe(24);
    const isIn = (f: number) => f === 4 || f === 5;
    expect(
      outlineSegments(
        floor,
        Uint32Array.of(4, 5),
        Uint8Array.from({ length: 9 }, (_, f) => (isIn(f) ? 3 : 2)),
        1,
      ).length / 6,
    ).toBe(6);
    expect(outlineSegments(floor, Uint32Array.from(Array(9).keys()), new Uint8Array(9).fill(1), 1).length / 6).toBe(12);
  });
});

describe('the face cursor', () => {
  it('steps to the neighbour in that direction of the screen, and across gaps to the nearest facing face', () => {
    const floor = load(grid(3));
    const camera = new OrthographicCamera(-3, 3, 3, -3, 0.1, 100);
    camera.position.set(1.5, 10, 1.5);
    camera.up.set(0, 0, -1);
    camera.lookAt(1.5, 0, 1.5);
    camera.updateMatrixWorld();
    const step = (from: number | null, x: number, y: number) => faceTowards(floor, camera, from, [x, y]);
    expect([step(null, 0, 0), step(4, 1, 0), step(4, -1, 0), step(4, 0, 1), step(4, 0, -1)]).toEqual([4, 5, 3, 1, 7]);
    expect(step(5, 1, 0)).toBe(-1);
    const under = new OrthographicCamera(-3, 3, 3, -3, 0.1, 100);
    under.position.set(1.5, -10, 1.5);
    under.lookAt(1.5, 0, 1.5);
    under.updateMatrixWorld();
    expect(faceTowards(floor, under, null, [1, 0])).toBe(-1);
  });
});

describe('framing', () => {
  it('keeps the whole box in view with air around, from any side and for any window', () => {
    const size = fc.tuple(
      ...([0, 1, 2].map(() => fc.double({ min: 0.01, max: 50, noNaN: true })) as [
        fc.Arbitrary<number>,
        fc.Arbitrary<number>,
        fc.Arbitrary<number>,
      ]),
    );
    const way = fc.tuple(
      fc.double({ min: -1, max: 1, noNaN: true }),
      fc.double({ min: -0.9, max: 0.9, noNaN: true }),
      fc.double({ min: 0.1, max: 1, noNaN: true }),
    );
    fc.assert(
      fc.property(size, way, fc.double({ min: 0.4, max: 3, noNaN: true }), (max, direction, aspect) => {
        const bounds = { min: [0, 0, 0] as [number, number, number], max };
        const forward = new Vector3(...direction).normalize();
        const { center, distance } = frameBounds(bounds, forward, 32, aspect);
        const camera = new PerspectiveCamera(32, aspect, distance / 1000, distance * 10);
        camera.position.copy(center).addScaledVector(forward, distance);
        camera.lookAt(center);
        camera.updateMatrixWorld();
        camera.updateProjectionMatrix();
        let most = 0;
        for (let i = 0; i < 8; i++) {
          const p = new Vector3(i & 1 ? max[0] : 0, i & 2 ? max[1] : 0, i & 4 ? max[2] : 0).project(camera);
          most = Math.max(most, Math.abs(p.x), Math.abs(p.y));
        }
        expect(most).toBeLessThan(1);
        expect(most).toBeGreaterThan(0.5);
      }),
      { seed: 12, numRuns: 60 },
    );
  });

  it('draws the floor in powers of ten that suit the model', () => {
    expect([0.3, 5, 17, 150].map(gridStep)).toEqual([0.1, 1, 1, 10]);
  });
});

describe('eyes', () => {
  it('are kept by model over visits, the latest ones; what is stored and makes no sense is as if nothing were', async () => {
    vi.useFakeTimers();
    const stored = new Map<string, string>();
    vi.stubGlobal('localStorage', { getItem: (k: string) => stored.get(k) ?? null, setItem: (k: string, v: string) => stored.set(k, v) });
    const visit = async () => {
      vi.resetModules();
      return import('./eyes');
    };
    const eye = (distance: number) => ({
      target: [1, 2, 3] as [number, number, number],
      direction: [0, 0, 1] as [number, number, number],
      distance,
      side: 'top' as const,
    });
    const first = await visit();
    for (let i = 0; i <= 200; i++) first.keepEye(`model ${i}`, eye(i));
    first.keepEye('model 1', eye(9));
    expect(first.eyeOf('model 1')).toEqual(eye(9));
    vi.runAllTimers();
    const second = await visit();
    expect([second.eyeOf('model 0'), second.eyeOf('model 1'), second.eyeOf('model 200')]).toEqual([undefined, eye(9), eye(200)]);
    for (const bad of ['{', '[["a", {}]]', '[["a", {"target": ["x"], "direction": [], "distance": 1}]]']) {
      stored.set('oligochrome eyes', bad);
      expect((await visit()).eyeOf('a')).toBeUndefined();
    }
    vi.unstubAllGlobals();
    vi.useRealTimers();
  });
});
