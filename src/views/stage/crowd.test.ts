import { BufferAttribute, InstancedMesh, Matrix4, Mesh, PerspectiveCamera, SphereGeometry, Vector3, type BufferGeometry } from 'three';
import { expect, test } from 'vitest';
import type { Placement } from '@/core/kit/kit';
import { placementsIn, StageCrowd } from './StageCrowd';
import { stageMaterial } from './stageMeshes';

const ball: BufferGeometry = new SphereGeometry(1, 32, 16);
ball.computeBoundingSphere();
ball.setAttribute('tint', new BufferAttribute(new Uint8Array(ball.getAttribute('position').count * 4).fill(200), 4, true));
const whole = ball.index!.count / 3;
/** A row of balls that goes away from the camera, and one behind it. */
const row: Placement[] = [...Array.from({ length: 40 }, (_, i) => -10 - i * 20), 50].map((z, i) => ({
  id: `p${i}`,
  name: `Ball ${i}`,
  model: 'm',
  at: [0, 0, z],
  turn: 0,
  scale: 1,
}));

function lookAt(crowd: StageCrowd, triangles: number) {
  const camera = new PerspectiveCamera(60, 1, 0.1, 5000);
  crowd.choose(camera, 400, triangles);
  const wholes = crowd.root.children.flatMap((o) => {
    if (!(o instanceof InstancedMesh) || !o.visible || o.geometry !== ball) return [];
    const matrix = new Matrix4();
    return Array.from({ length: o.count }, (_, i) => (o.getMatrixAt(i, matrix), new Vector3().setFromMatrixPosition(matrix).z));
  });
  const drawn = crowd.root.children.reduce((sum, o) => {
    if (!o.visible || !(o instanceof Mesh)) return sum;
    const { drawRange, index } = o.geometry as BufferGeometry;
    return sum + (Math.min(drawRange.count, index!.count) / 3) * (o instanceof InstancedMesh ? o.count : 1);
  }, 0);
  return { wholes, drawn };
}

test('what can be drawn in time is drawn whole, and nothing that is not seen', () => {
  const crowd = new StageCrowd(row, () => ball, stageMaterial());
  const { wholes, drawn } = lookAt(crowd, whole * 40);
  expect(wholes).toHaveLength(40);
  expect(Math.max(...wholes)).toBeLessThan(0);
  expect([drawn, crowd.triangles, crowd.isReduced]).toEqual([whole * 40, whole * 40, false]);
});

test('with less, the nearest stay whole and the farthest have the fewest triangles; more of it brings more', () => {
  const crowd = new StageCrowd(row, () => ball, stageMaterial());
  let before = -1;
  for (const budget of [1500, 4000, 12_000]) {
    const { wholes, drawn } = lookAt(crowd, budget);
    expect(drawn).toBe(crowd.triangles);
    expect(drawn).toBeLessThanOrEqual(budget);
    expect(wholes.length).toBeGreaterThanOrEqual(before);
    expect([...wholes].sort((a, b) => b - a)).toEqual(row.slice(0, wholes.length).map((p) => p.at[2]));
    before = wholes.length;
  }
  // Those of 8 pixels and more; below that a coarse shape looks the same, so that not all is spent.
  expect(before).toBe(row.filter((p) => p.at[2] < 0 && 346.4 / (-p.at[2] - 1) > 8).length);
  expect(crowd.isReduced).toBe(false);
  lookAt(crowd, 1500);
  expect(crowd.isReduced).toBe(true);
});

test('a ray meets every placement, however it is drawn', () => {
  const crowd = new StageCrowd(row, () => ball, stageMaterial());
  lookAt(crowd, 500);
  expect(crowd.pickable.flatMap((o) => [...placementsIn(o)])).toEqual(row);
});
