import { inherits } from '../../ground/limits';
import { byId } from '../../ground/byId';
import { equalArrays } from '../../ground/equalArrays';
import { leaveDefaults, type LeaveOptions } from '../../kit/leaveOptions';
import { isDoubleSided } from '../../kit/sides';
import { type Kit, type Model, type Patches, type Seats } from '../../kit/kit';
import { kitOfVariant } from '../../kit/colorings/shown';
import type { PolyMesh } from '../../shapes/mesh/polyMesh';
import { cutOutCells, seeThroughCells } from '../../sheet/opacity';
import type { Pictures } from '../../ground/pictures/raster';
import { leavingSlots } from '../../faces/regions/slots';

export interface DrawOptions extends Partial<LeaveOptions> {
  pictures?: Pictures;
  /** What variants say of faces: where these have other materials than their neighbours, they part. */
  patches?: Patches;
}

/**
 * Counts the draw calls with which models leave as GLB: one for each material of each mesh that can be
 * joined, or of each one that a node shows. The same as `groupFaces`, `joinMeshes` and `rebuildSource` make
 * of them, without making anything. Without its mesh, a model counts as one object. `allColored`: as if faces not
 * yet colored had a color of their model's sheet; of flat materials, one that there is already.
 */
export function drawCallCounter(kit: Kit, options: DrawOptions = {}) {
  const drawsOf = drawFinder(kit, options);
  return (model: Model, seats: Seats, mesh: PolyMesh | undefined, allColored = false): number =>
    drawsOf(model, seats, mesh, allColored).size + (mesh?.source?.otherDraws ?? 0);
}

/** Counts the different materials with which they leave so. */
export function materialCounter(kit: Kit, options: DrawOptions = {}) {
  const drawsOf = drawFinder(kit, { ...options, variants: 'none' });
  return (model: Model, seats: Seats, mesh: PolyMesh | undefined): number =>
    new Set([...drawsOf(model, seats, mesh)].map((key) => Math.floor(key / places))).size;
}

/** Meshes of one material that are told apart at most. */
const places = 65536;
/** Materials of one model that are told apart at most. */
const mostMaterials = 1 << 20;

/** For each cell its sheet, counted by threes, one more where it is see-through, two where texels of it are cut away; -1 for others. */
function sheetNumbers(kit: Kit, as: LeaveOptions['as'], pictures: Pictures | undefined): Int32Array {
  const numbers = new Int32Array(65536).fill(-1);
  kit.sheets.forEach((sheet, s) => sheet.cells.forEach((cell) => (numbers[cell.id] = as === 'colors' ? 0 : s * 3)));
  for (const cell of seeThroughCells(kit, pictures)) numbers[cell]!++;
  if (as === 'texture') for (const cell of cutOutCells(kit, pictures)) numbers[cell]!++;
  return numbers;
}

/**
 * Tells faces of one material apart that have others in some variant, as `variedGroups` does: 0 for those that have the
 * same in all. A variant that needs a fifth UV set is counted as if it had one.
 */
function partFinder(
  kit: Kit,
  as: LeaveOptions['as'],
  patches: Patches = byId(),
  pictures: Pictures | undefined,
  sheetOf: Int32Array,
): (model: Model, seats: Pick<Seats, 'cell' | 'region'>) => ((face: number, own: number) => number) | null {
  const shown = kit.variants.map((v) => ({ ...v, kit: kitOfVariant(kit, v) }));
  const numbers = shown.map((v) => (as === 'slots' || v.kit.sheets === kit.sheets ? sheetOf : sheetNumbers(v.kit, as, pictures)));
  const isAlike = numbers.map((own) => own === sheetOf || equalArrays(own.subarray(0, kit.nextCell), sheetOf.subarray(0, kit.nextCell)));
  const ids = new Map<string, number>([['', 0]]);
  return (model, seats) => {
    const own = shown.flatMap((v, i) => {
      if (v.model !== undefined && v.model !== model.id) return [];
      const patch = patches[v.id]?.[model.id];
      if (!patch && (as === 'slots' || isAlike[i])) return [];
      const cell = patch ? seats.cell.map((c, f) => (patch.cell[f] === inherits ? c : patch.cell[f]!)) : seats.cell;
      return [{ cell, group: as === 'slots' ? slotNumbers(v.kit, model, { cell, region: seats.region }) : numbers[i]! }];
    });
    if (!own.length) return null;
    return (face, number) => {
      let key = '';
      for (let v = 0; v < own.length; v++) {
        const there = own[v]!.group[own[v]!.cell[face]!]!;
        if (there !== number) key += `${v}:${there} `;
      }
      if (!key) return 0;
      const known = ids.get(key);
      if (known !== undefined) return known;
      ids.set(key, ids.size);
      return ids.size - 1;
    };
  };
}

/** Finds the draw calls of a model, each as a material times `places` and the mesh that it is drawn with. */
function drawFinder(kit: Kit, { pictures, patches, ...options }: DrawOptions) {
  const { as, meshes, nodes, variants } = { ...leaveDefaults, ...options };
  const sheetOf = sheetNumbers(kit, as, pictures);
  const apart = variants === 'inside' && as !== 'colors' ? partFinder(kit, as, patches, pictures, sheetOf) : null;
  return (model: Model, { cell, region }: Seats, mesh: PolyMesh | undefined, allColored = false): Set<number> => {
    const group = as === 'slots' ? slotNumbers(kit, model, { cell, region }) : sheetOf;
    const own = as === 'texture' ? kit.sheets.findIndex((s) => s.id === model.sheet) * 3 : 0;
    // What a face without color counts as: a slot that there is already, or the model's sheet.
    const bare = !allColored ? -1 : as === 'slots' ? Math.max(0, ...Array.from(new Set(cell), (c) => group[c]!)) : own;
    const { primitives, facePrimitive } = (model.source.format === 'gltf' && model.source.files.length > 0 && mesh?.source) || {};
    const sided = mesh?.slots.map((_, slot) => isDoubleSided(model, mesh, slot)) ?? [];
    const partOf = apart?.(model, { cell, region }) ?? null;
    const tints = mesh?.cornerColors !== undefined;
    const seen = new Set<number>();
    let last = -1;
    for (let f = 0; f < cell.length; f++) {
      const slot = mesh ? mesh.faceSlot[f]! : 0;
      const p = facePrimitive ? facePrimitive[f]! : meshes === 'shared' && mesh ? mesh.faceObject[f]! : 0;
      const grouped = group[cell[f]!]!;
      const g = grouped < 0 ? bare : grouped;
      const from = meshes === 'joined' ? primitives?.[p] : undefined;
      const joins = (nodes !== 'joined' && from?.apart?.[nodes]) || from?.joins;
      // Sides part faces on a sheet; a flat slot is one material whatever its faces are.
      const material = g < 0 ? slot * 2 + 1 : (as === 'slots' ? g * 2 : g * 2 + (sided[slot] ? 1 : 0)) * 2;
      const place = joins ? (g < 0 ? joins.bare : joins.colored) : p;
      const part = partOf && !(grouped < 0 && (tints || allColored)) ? partOf(f, grouped) : 0;
      const key = (part * mostMaterials + material) * places + place;
      if (key === last) continue;
      last = key;
      seen.add(key);
    }
    return seen;
  };
}

/** For each cell the number of the slot by which it leaves; -1 for others. */
function slotNumbers(kit: Kit, model: Model, seats: Seats): Int32Array {
  const numbers = new Int32Array(65536).fill(-1);
  for (const { number, cell } of leavingSlots(kit, model, seats)) numbers[cell] = number;
  return numbers;
}
