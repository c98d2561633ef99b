import { modelOf } from '@tests/parts';
import { byId } from '@/core/ground/byId';
import type { Raster } from '@/core/ground/pictures/raster';
import { emptySeats, type Cell, type KitState, type Seats, type Sheet } from '@/core/kit/kit';
import { proofDefaults, type Finding, type ProofModel } from '@/core/judging/proof/finding';
import { prove } from '@/core/judging/proof/proof';
import { noRecoloring } from '@/core/judging/proof/recoloring';
import { adjacencyOf } from '@/core/shapes/mesh/adjacency';
import type { PolyMesh } from '@/core/shapes/mesh/polyMesh';
import { triangulate } from '@/core/shapes/mesh/triangulate';
import { newKit } from '@/core/sheet/starter';
import { box } from './meshes';

/** Kits for checks: models of these meshes, all of whose faces sit on the first of these cells. */
export const cell = (id: number, x: number, y: number, size: number, fill: Cell['fill'], role = ''): Cell => ({
  id,
  rect: { x, y, w: size, h: size },
  role,
  fill,
});
export const solid = (color: string, alpha?: number): Cell['fill'] => ({ kind: 'solid', color, ...(alpha !== undefined && { alpha }) });

export function world(meshes: PolyMesh[], cells: Cell[], size = 16) {
  const kit = newKit('K');
  const sheet: Sheet = { ...kit.sheets[0]!, width: size, height: size, cells, ramps: [] };
  const models = meshes.map((mesh, i) => modelOf(`m${i}`, mesh.faceStart.length - 1, sheet.id, { name: `Crate ${i}` }));
  const seats = byId<Seats>(models.map((m) => [m.id, { ...emptySeats(m.faces), cell: new Uint16Array(m.faces).fill(cells[0]!.id) }]));
  const state: KitState = { kit: { ...kit, sheets: [sheet], models, nextCell: 90 }, seats };
  return { state, meshes };
}
export const modelsOf = ({ state, meshes }: ReturnType<typeof world>): ProofModel[] =>
  state.kit.models.map((model, i) => {
    const adjacency = adjacencyOf(meshes[i]!);
    return { model, seats: state.seats[model.id]!, mesh: meshes[i]!, adjacency, triangles: triangulate(meshes[i]!, adjacency.normals) };
  });
export const look = (
  w: ReturnType<typeof world>,
  settings = {},
  recoloring = noRecoloring,
  pictures: ReadonlyMap<string, Raster> = new Map(),
): Finding[] =>
  prove({
    ...(w.state.patches && { patches: w.state.patches }),
    kit: w.state.kit,
    models: modelsOf(w),
    seats: w.state.seats,
    pictures,
    settings: { ...proofDefaults, ...settings },
    recoloring,
  });
export const named = (found: Finding[], check: string) => found.filter((f) => f.check === check);
/** A kit in order: a box on one color of four, that are all used. */
export const inOrder = () => {
  const colors = ['#a04030', '#3050a0', '#50a040', '#c0b060'];
  const cells = colors.map((color, i) => cell(i + 1, (i % 2) * 4, i > 1 ? 4 : 0, 4, solid(color)));
  const w = world([box()], cells, 8);
  w.state.seats.m0!.cell.set([1, 2, 3, 4, 1, 2]);
  return w;
};
