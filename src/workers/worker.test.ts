import 'fake-indexeddb/auto';
import * as Comlink from 'comlink';
import { afterAll, expect, it } from 'vitest';
import { cornerRun } from '@/core/shapes/mesh/faceOrigins';
import { isGltfModel } from '@/core/files/leaving/exportModel';
import { leaveDefaults } from '@/core/kit/leaveOptions';
import { decodePng } from '@/core/ground/pictures/png';
import { readModel } from '@/core/files/formats/readModel';
import { boundsOf as boundsOfIsland } from '@/core/islands/islandsOf';
import { emptySeats, type Cell, type Model } from '@/core/kit/kit';
import { faceCount } from '@/core/shapes/mesh/polyMesh';
import { newKit } from '@/core/sheet/starter';
import { keepBlobs } from '@/data/blobs';
import { boxFaces, bytesOf } from '@tests/meshes';
import { api, type LongWorker } from './api';
import type { Baked } from './baking';
import type { PackingAsked } from './unwrapping';

// The same functions over a channel as in a worker: what is handed over is gone from the side that gave it.
const { port1, port2 } = new MessageChannel();
Comlink.expose(api, port1 as unknown as Comlink.Endpoint);
const worker = Comlink.wrap<LongWorker>(port2 as unknown as Comlink.Endpoint);
afterAll(() => port1.close());

/** A box of 2 × 1 × 1 metres as an OBJ; `turned`: one face the other way round. */
function boxObj(turned = -1, shift = 0) {
  const vertices = Array.from({ length: 8 }, (_, i) => `v ${(i & 1) * 2 + shift} ${(i & 2) / 2} ${(i & 4) / 4}`);
  const faces = boxFaces.map((f, n) => `f ${(n === turned ? [...f].reverse() : f).map((v) => v + 1).join(' ')}`);
  return { name: 'crate.obj', bytes: bytesOf([...vertices, ...faces].join('\n')) };
}

async function bringIn(file = boxObj()) {
  const told: number[] = [];
  const onProgress = Comlink.proxy(async (share: number) => void told.push(share));
  const { models, errors } = await worker.importFiles([file], true, onProgress);
  expect(errors).toEqual([]);
  const [model] = models as [(typeof models)[0]];
  await keepBlobs([{ id: model.loaded.id, bytes: model.packed }]);
  return { ...model, told };
}

const modelOf = (mesh: string): Model => ({
  id: 'm',
  name: 'Crate',
  mesh,
  faces: 6,
  sheet: '',
  regions: [],
  slots: [],
  seams: [],
  source: { format: 'obj', name: 'crate.obj', files: [] },
});
const coloredSeats = { ...emptySeats(6), cell: Uint16Array.from([1, 1, 2, 2, 3, 0]) };

it('reads a model whole, and prepares the same from what was stored, as often as it is asked', async () => {
  const { loaded, report, told } = await bringIn();
  expect([report.faces, report.vertices, report.parts, report.size, report.problems]).toEqual([6, 8, 1, [2, 1, 1], []]);
  await expect.poll(() => told.at(-1)).toBe(0.7);
  expect(told).toEqual([...told].sort((p, q) => p - q));
  const shares: number[] = [];
  const again = () =>
    worker.prepare(
      loaded.id,
      [],
      Comlink.proxy((share: number) => void shares.push(share)),
    );
  expect(await again()).toEqual(loaded);
  expect(await again()).toEqual(loaded);
  // What is told takes a way of its own, and may arrive later than the answer.
  await expect.poll(() => shares).toEqual([0.1, 0.5, 0.7, 0.8, 0.1, 0.5, 0.7, 0.8]);
  await expect(
    worker.prepare(
      'unknown',
      [],
      Comlink.proxy(() => undefined),
    ),
  ).rejects.toThrow('missing from the storage');
});

it('meets the nearest face of what was kept for picking, and nothing once it is forgotten or hidden', async () => {
  const { loaded } = await bringIn();
  await worker.keep(loaded);
  const above = [0.5, 5, 0.5] as [number, number, number];
  const down = [0, -1, 0] as [number, number, number];
  const top = 3;
  expect((await worker.faceAt(loaded.id, above, down))?.face).toBe(top);
  expect((await worker.faceAt(loaded.id, [0.5, -5, 0.5], [0, 1, 0]))?.face).toBe(2);
  await worker.setShown(loaded.id, { hidden: Uint8Array.from([0, 0, 0, 1, 0, 0]), cut: null });
  expect((await worker.faceAt(loaded.id, above, down))?.face).toBe(2);
  const pick = { scope: 'smooth' as const, face: 0, edge: 0, corner: 0, angle: 95 };
  expect([...(await worker.pick(loaded.id, new Uint16Array(6), [], pick))].sort()).toEqual([0, 1, 2, 3, 4, 5]);
  await worker.forget(loaded.id);
  expect(await worker.faceAt(loaded.id, above, down)).toBeNull();
});

it('repairs, and carries what lies on the faces to what came of it', async () => {
  const { loaded } = await bringIn(boxObj(4));
  expect((await worker.problems(loaded.id)).problems).toMatchObject([{ kind: 'flipped', count: 1 }]);
  const repaired = await worker.repair(loaded.id, [], 'turn-outward', {});
  expect([...repaired.origins.order!]).toEqual([1, 1, 1, 1, cornerRun.turned, 1]);
  await keepBlobs([{ id: repaired.address, bytes: repaired.packed }]);
  expect((await worker.problems(repaired.address)).problems).toEqual([]);
  const at = Float32Array.from({ length: 48 }, (_, i) => i / 48);
  const marks = { seams: [1], picks: [{ id: 1, name: 'lid', spans: [3, 1] }] };
  const carried = await worker.carryRemeshed(loaded.id, repaired.address, marks, { ...coloredSeats, at }, repaired.origins);
  expect([...carried.seats.cell]).toEqual([...coloredSeats.cell]);
  expect([...carried.seats.at!.subarray(34, 40)]).toEqual([...at.subarray(38, 40), ...at.subarray(36, 38), ...at.subarray(34, 36)]);
  expect([carried.seams, carried.picks]).toEqual([marks.seams, marks.picks]);
});

it('matches the faces of a moved copy, leaving the meshes to be asked for again', async () => {
  const [old, now] = [await bringIn(), await bringIn(boxObj(-1, 7))];
  const shares: number[] = [];
  const ask = () =>
    worker.matchMeshes(
      old.loaded.id,
      now.loaded.id,
      Uint32Array.from([0, 1, 2, 3, 4, 5]),
      { seams: [] },
      coloredSeats,
      Comlink.proxy((s) => void shares.push(s)),
    );
  const { match, carried } = await ask();
  expect([...match.origins.from]).toEqual([0, 1, 2, 3, 4, 5]);
  expect([...carried.seats.cell]).toEqual([...coloredSeats.cell]);
  await expect.poll(() => shares[0]).toBe(0);
  expect(await ask()).toEqual({ match, carried });
});

it('writes what leaves from the stored mesh, again and again the same, and measures just that', async () => {
  const { loaded } = await bringIn();
  const kit = newKit('Skerry');
  const leaving = [{ model: modelOf(loaded.id), seats: coloredSeats, files: [] }];
  const options = leaveDefaults;
  const glb = await worker.exportGlb(kit, leaving, [], options);
  expect(await worker.exportGlb(kit, leaving, [], options)).toEqual(glb);
  const back = await readModel({ name: 'crate.glb', bytes: glb }, [], { mendQuads: true });
  expect(faceCount(back.mesh)).toBe(6);
  const measured = await worker.measureGlb(kit, leaving, [], options);
  // The sheet, and what is not yet colored.
  expect([measured.fileBytes, measured.cost.drawCalls, measured.cost.materials]).toEqual([glb.length, 2, 2]);
  expect(isGltfModel({ ...leaving[0]!, mesh: loaded.mesh })).toBe(false);
});

it('draws a picture of a model in the colors of its cells', async () => {
  const { loaded } = await bringIn();
  await worker.keep(loaded);
  const colors = new Uint8Array(1024);
  for (const cell of [1, 2, 3]) colors.set([200, 40, 30, 255], cell * 4);
  const raster = decodePng(await worker.thumbnail({ mesh: loaded.id, cells: new Uint16Array(6).fill(1) }, colors, 64, null));
  expect([raster.width, raster.height]).toEqual([64, 64]);
  const middle = raster.data.slice((32 * 64 + 32) * 4, (32 * 64 + 32) * 4 + 4);
  expect([middle[0]! > middle[1]! * 2, middle[3]]).toEqual([true, 255]);
});

it('lays a further model beside what lies on the art, at its density, and tells where there is no room for that', async () => {
  const [first, second] = [await bringIn(), await bringIn(boxObj(-1, 5))];
  const kit = newKit('K');
  const cell: Cell = { id: 9, rect: { x: 0, y: 0, w: 128, h: 64 }, role: '', fill: { kind: 'art', picture: 'p' } };
  const sheet = { ...kit.sheets[0]!, width: 128, height: 64, cells: [cell] };
  const asked = { sheet, beside: [], keepsDensity: true, stacksLike: false, mayTurn: true, margin: 1, clearance: 0 };
  const all = Uint32Array.from(Array(6).keys());
  const lay = (mesh: string, options: Partial<PackingAsked>) =>
    worker.layOut(
      mesh,
      all,
      { kind: 'areas', angle: 10 },
      cell,
      { ...asked, ...options },
      Comlink.proxy(() => undefined),
    );
  // A box of 2 × 1 × 1 has 10 square metres: as large as it finds room.
  const alone = await lay(first.loaded.id, {});
  expect([alone.islands, alone.density, alone.closed.length]).toEqual([6, 0, 0]);
  expect(alone.factor ** 2 * 10).toBeGreaterThan(0.5 * 128 * 64);
  const stackedLike = await lay(first.loaded.id, { stacksLike: true });
  expect(stackedLike.factor).toBeGreaterThan(1.5 * alone.factor);
  // At 8 texels a metre, in the upper left quarter, it leaves room for another one.
  const at = Float32Array.from(alone.texels, (t, i) => (t * 8) / alone.factor / (i % 2 ? 64 : 128));
  const seats = { cell: new Uint16Array(6).fill(9), at };
  const beside = await lay(second.loaded.id, { beside: [{ mesh: first.loaded.id, seats }] });
  expect([beside.factor, beside.density]).toEqual([expect.closeTo(8, 3), expect.closeTo(8, 3)]);
  const { faceStart } = second.loaded.mesh;
  const boxes = (texels: Float32Array) => Array.from(all, (f) => boundsOfIsland([f], faceStart, texels));
  for (const [x0, x1, y0, y1] of boxes(beside.texels))
    for (const [p0, p1, q0, q1] of boxes(at.map((v, i) => v * (i % 2 ? 64 : 128))))
      expect(Math.max(p0 - x1, x0 - p1, q0 - y1, y0 - q1)).toBeGreaterThan(1 - 1e-3);
  // What is laid anew itself leaves its place.
  const again = await lay(first.loaded.id, { beside: [{ mesh: first.loaded.id, seats, except: all }] });
  expect(again.factor).toBeCloseTo(alone.factor, 3);
  const full = { cell: seats.cell, at: Float32Array.from(alone.texels, (t, i) => t / (i % 2 ? 64 : 128)) };
  const crowded = await lay(second.loaded.id, { beside: [{ mesh: first.loaded.id, seats: full }] });
  expect(crowded.factor).toBeLessThan(0.9 * crowded.density);
});

it('fills a prescribed layout with a model’s own colors, and with those nearest on another', async () => {
  const quad = bytesOf('v 0 0 0\nv 4 0 0\nv 4 4 0\nv 0 4 0\nvt 0 0\nvt 1 0\nvt 1 1\nvt 0 1\nf 1/1 2/2 3/3 4/4');
  // A denser one a little before it: black at the left, red at the right, in vertex colors.
  const row = (y: number) => [0, 1, 2, 3, 4].map((x) => `v ${x} ${y} 0.1 ${x / 4} 0 0`);
  const dense = bytesOf([...row(0), ...row(4), ...[1, 2, 3, 4].map((i) => `f ${i} ${i + 1} ${i + 6} ${i + 5}`)].join('\n'));
  const [own, other] = [await bringIn({ name: 'q.obj', bytes: quad }), await bringIn({ name: 'd.obj', bytes: dense })];
  const kit = newKit('K');
  const solid = kit.sheets[0]!.cells[3]!;
  const model = { mesh: own.loaded.id, seats: { ...emptySeats(1), cell: Uint16Array.of(solid.id) }, files: [] };
  const size = { width: 8, height: 4, padding: 0 };
  const seen = async (from: Baked | null) => {
    const { png, clashTexels } = await worker.bakeLayout(kit, model, from, [], size);
    expect(clashTexels.length).toBe(0);
    const { data } = decodePng(png);
    return Array.from({ length: 32 }, (_, i) => [...data.subarray(i * 4, i * 4 + 3)]);
  };
  const flat = await seen(null);
  const rgb = (h: string) => [1, 3, 5].map((i) => parseInt(h.slice(i, i + 2), 16));
  expect(flat.every((c) => c.join() === rgb(solid.fill.kind === 'solid' ? solid.fill.color : '').join())).toBe(true);
  const faded = await seen({ mesh: other.loaded.id, seats: emptySeats(4), files: [] });
  // The middles of eight texels, from left to right.
  faded.slice(0, 8).forEach(([r, g, b], x) => expect([Math.abs(r! - ((x + 0.5) / 8) * 255) < 2, g, b]).toEqual([true, 0, 0]));
});
