import { modelOf } from '@tests/parts';
import { byId } from '@/core/ground/byId';
import 'fake-indexeddb/auto';
import { vi } from 'vitest';
import { emptySeats, newId, type Kit, type KitState } from '@/core/kit/kit';
import { adjacencyOf } from '@/core/shapes/mesh/adjacency';
import { boundsOf } from '@/core/shapes/mesh/measure';
import type { PolyMesh } from '@/core/shapes/mesh/polyMesh';
import { triangulate } from '@/core/shapes/mesh/triangulate';
import { facesOf, type PickRequest } from '@/core/shapes/pick/scopes';
import { mirrorPlanes, twinsAcross, type MirrorPlane } from '@/core/shapes/pick/symmetry';
import { layForPainting } from '@/core/islands/paintable';
import { runOf } from '@/core/faces/seat/layAlong';
import type { Laying } from '@/core/kit/laying/seatRule';
import { newKit } from '@/core/sheet/starter';
import { db } from '@/data/db';
import { createKit } from '@/data/kits';
import { box, grid } from './meshes';

/**
 * What stands behind the page in tests: meshes of a worker, and another tab. A test that imports this has
 * both in place of the real ones.
 */
const held = vi.hoisted(() => ({
  meshes: new Map<string, unknown>(),
  tabHasKit: false,
  pickedInWorker: 0,
  forgotten: [] as string[],
  wait: Promise.resolve(),
}));

function loaded(id: string, mesh: PolyMesh) {
  const adjacency = adjacencyOf(mesh);
  return {
    id,
    mesh,
    adjacency,
    triangles: triangulate(mesh),
    bounds: boundsOf(mesh),
    angles: { flat: 10, smooth: 60 },
    asRead: new Uint8Array(adjacency.areas.length * 4),
    pictures: null,
  };
}
type Loaded = ReturnType<typeof loaded>;

vi.mock('@/workers/client', () => {
  const worker = {
    likeness: async () => ({ parts: 0, difference: 0 }),
    ping: () => Promise.resolve(true),
    prepare: async (id: string) => held.meshes.get(id),
    keep: async () => undefined,
    forget: async (id: string) => void held.forgotten.push(id),
    readPalette: async () => {
      await held.wait;
      return { kind: 'hex', colors: [{ color: '#123456' }], notes: [] };
    },
    faceAt: async (_: string, [face]: [number]) => {
      await held.wait;
      if (face < 0) throw new Error('The ray could not be cast.');
      return { face, edge: 0, corner: 0 };
    },
    layForPainting: async (id: string, faces: Uint32Array, density: number, gap: number) =>
      layForPainting(held.meshes.get(id) as Loaded, faces, density, gap),
    mirrorPlanes: async (id: string, tolerance: number) => {
      const { mesh, adjacency } = held.meshes.get(id) as Loaded;
      return mirrorPlanes(mesh, adjacency, tolerance);
    },
    twinsAcross: async (id: string, plane: MirrorPlane, tolerance: number) => {
      const { mesh, adjacency } = held.meshes.get(id) as Loaded;
      return twinsAcross(mesh, adjacency, plane, tolerance);
    },
    runAlong: async (id: string, faces: Uint32Array, laying: Laying) => {
      held.pickedInWorker++;
      await held.wait;
      const { mesh, adjacency } = held.meshes.get(id) as Loaded;
      return runOf(mesh, adjacency, faces, laying);
    },
    pick: async (id: string, cells: Uint16Array, _: number[], request: PickRequest) => {
      held.pickedInWorker++;
      await held.wait;
      const { mesh, adjacency } = held.meshes.get(id) as Loaded;
      return facesOf({ mesh, adjacency, cells }, request);
    },
  };
  return {
    pickingWorker: () => worker,
    longWorker: () => worker,
    onWorkerRestart: () => 0,
    stopLongWork: () => undefined,
    proxy: (f: unknown) => f,
  };
});
vi.mock('@/data/tabLock', () => ({ lockKit: async () => (held.tabHasKit ? null : { release: () => undefined }) }));
vi.mock('sonner', () => ({ toast: Object.assign(() => undefined, { error: () => undefined }) }));

export { held };

const { openKit, closeKit } = await import('@/state/kit/openKit');
const { current } = await import('@/state/kit/editor');
const { clickFace } = await import('@/state/pick/picking');
const { usePhrase } = await import('@/state/chosen/phrase');
const { useColoring } = await import('@/state/chosen/coloringState');

export const cells = () => [...current()!.cells];
export const sheet = () => current()!.sheet;
export const ramp = (n: number) => sheet().ramps[n]!.cells;
const keys = { add: false, take: false };
let clock = 0;
/** A time long after the last one; and one shortly after that. */
export const later = () => (clock += 10_000);
export const soon = (milliseconds: number) => clock + milliseconds;
/** A click long after the one before. */
export const click = (face: number, more = keys) => clickFace(face, more, later());

/** Makes a kit of these meshes, a model for each, and opens it. */
export async function openKitOf(meshes: Record<string, PolyMesh>): Promise<void> {
  const kit: Kit = newKit('Skerry');
  const models = Object.entries(meshes).map(([name, mesh]) => {
    const id = newId('x');
    held.meshes.set(id, loaded(id, mesh));
    return modelOf(name, mesh.faceStart.length - 1, kit.sheets[0]!.id, { mesh: id });
  });
  const state: KitState = { kit: { ...kit, models }, seats: byId(models.map((m) => [m.id, emptySeats(m.faces)])) };
  await db.blobs.bulkPut(models.map((m) => ({ id: m.mesh, bytes: new Uint8Array(1) })));
  await createKit(state);
  await openKit(kit.id);
}

/** A kit of a box and a floor of nine faces, and everything as at the start. */
export async function openBoxAndFloor(): Promise<void> {
  await closeKit();
  held.tabHasKit = false;
  usePhrase.setState({ scope: 'face', flat: null, smooth: null, act: 'pick' });
  useColoring.setState({ cell: 0, recent: [] });
  await openKitOf({ box: box(), floor: grid(3) });
}
