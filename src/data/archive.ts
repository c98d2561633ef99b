import { strFromU8, strToU8 } from 'fflate';
import { byId, type ById } from '@/core/ground/byId';
import { inOneOrder } from '@/core/ground/inOneOrder';
import { archiveLimits, inherits, maxSheetSize } from '@/core/ground/limits';
import { paintedIn, paintedInAll, type Pixels } from '@/core/kit/pixels';
import { checkMesh } from '@/core/shapes/mesh/checkMesh';
import { faceCount, type PolyMesh } from '@/core/shapes/mesh/polyMesh';
import { FileError, fileErrorOf, parseJson } from '@/core/ground/bytes/errors';
import type { NamedFile } from '@/core/ground/bytes/fileKinds';
import { addressNow, contentAddress, pack, unpack } from '@/core/ground/bytes/pack';
import { meshAsGlb, meshFromGlb } from '@/core/files/formats/meshGlb';
import { unzipped, zipOf } from '@/core/ground/bytes/zip';
import { contentsOfKit } from '@/core/kit/contents';
import type { Kit, KitState, Model, SeatPatch, Seats } from '@/core/kit/kit';
import { patchesByVariant, withoutIdle, withPatches } from '@/core/kit/patches';
import { withoutStrangers } from '@/core/kit/references';
import { cueWithout } from '@/core/kit/edit/cueEdits';
import { misfitOf } from './checked';
import { readDocument, writeDocument } from './kitDocument';
import { sumsSchema } from './kitSchema';

const documentEntry = 'kit.json';

/**
 * A kit as one zip: `kit.json` (version and document), `seats/MODEL.bin`, `patches/VARIANT/MODEL.bin`, `pixels/ART.bin`,
 * `meshes/ADDRESS.glb`, `blobs/ADDRESS.bin` (files, pictures), `sums.json`; see docs/kit-archive.md. `blobs` must hold everything that
 * the kit names. Times are fixed, so that the same kit gives the same bytes.
 */
export function writeArchive(
  { kit, seats, patches = byId<never>(), pixels = byId() }: KitState,
  blobs: ReadonlyMap<string, Uint8Array>,
): Uint8Array {
  const entries: NamedFile[] = [{ name: 'kit.json', bytes: strToU8(writeDocument(kit)) }];
  for (const { id } of kit.models) entries.push({ name: `seats/${id}.bin`, bytes: pack(inStoredOrder(seats[id]!)) });
  for (const [variant, own] of Object.entries(patches))
    for (const [model, patch] of Object.entries(own)) entries.push({ name: patchEntry(variant, model), bytes: pack(inStoredOrder(patch)) });
  for (const art of paintedInAll(kit)) {
    const { width, height, cells } = pixels[art]!;
    entries.push({ name: pixelsEntry(art), bytes: pack({ width, height, cells }) });
  }
  const meshes = new Set(kit.models.map((m) => m.mesh));
  for (const id of contentsOfKit(kit)) {
    const bytes = blobs.get(id);
    if (!bytes) throw new Error('A mesh or file of the kit is missing; it cannot be archived.');
    entries.push((meshes.has(id) && meshEntry(id, bytes)) || { name: `blobs/${id}.bin`, bytes });
  }
  const sums = Object.fromEntries(
    entries.map(({ name, bytes }) => [name, name.startsWith('blobs/') ? name.slice(6, -4) : addressNow(bytes)]),
  );
  return zipOf([...entries, { name: sumsEntry, bytes: strToU8(JSON.stringify(inOneOrder(sums), null, 1)) }]);
}

/** Arrays in the same order whatever came and went: undo and redo leave no trace. */
const inStoredOrder = <T extends SeatPatch | Seats>({ cell, at, rule, ...region }: T) => ({
  cell,
  ...region,
  ...(at && { at }),
  ...(rule && { rule }),
});

/** `null` where it is broken: then it goes along as it is, and the other models are not held up by it. */
function meshEntry(id: string, packed: Uint8Array): NamedFile | null {
  try {
    return { name: `meshes/${id}.glb`, bytes: meshAsGlb(packed) };
  } catch {
    return null;
  }
}

export interface OpenedArchive {
  state: KitState;
  blobs: Map<string, Uint8Array>;
  /** Models that are broken, and so were left out: which and why. */
  leftOut: string[];
}

/**
 * Opens an archive. Throws `FileError`; every length, id and address is checked before the kit is believed. A
 * broken model is left out; the others are opened.
 */
export async function readArchive(file: string, bytes: Uint8Array): Promise<OpenedArchive> {
  const entries = unzipped(file, bytes, archiveLimits);
  const entry = (name: string) => entries.get(name)?.bytes;
  const { kit, version } = readDocument(file, entry(documentEntry));
  const isWhole = sumsOf(file, entry(sumsEntry), version);
  if (!(await isWhole(documentEntry, entry(documentEntry)!))) throw new FileError(file, 'its document is damaged.', documentEntry);
  const blobs = new Map<string, Uint8Array>();
  const take = async (id: string): Promise<Uint8Array> => {
    const mesh = entry(`meshes/${id}.glb`);
    const where = mesh ? `meshes/${id}.glb` : `blobs/${id}.bin`;
    const blob = blobs.get(id) ?? (mesh ? packedIn(mesh) : entry(where));
    if (!blob || (await contentAddress(blob)) !== id) throw new FileError(file, 'a part of it is missing or damaged.', where);
    blobs.set(id, blob);
    return blob;
  };
  for (const id of contentsOfKit({ ...kit, models: [] })) await take(id);
  const cells = new Set(kit.sheets.flatMap((s) => s.cells.map((c) => c.id)));
  const pixels: [string, Pixels][] = [];
  const ofDefault = new Set(paintedIn(kit));
  for (const art of paintedInAll(kit)) {
    const own = entry(pixelsEntry(art));
    if (!own || !(await isWhole(pixelsEntry(art), own)))
      throw new FileError(file, 'its painted art is missing or damaged.', pixelsEntry(art));
    pixels.push([art, readPixels(file, art, own, ofDefault.has(art) ? cells : new Set([...cells, inherits]))]);
  }
  const opened = new Map<string, { seats: Seats; patches: ById<SeatPatch> }>();
  const leftOut: FileError[] = [];
  for (const model of kit.models) {
    const where = `seats/${model.id}.bin`;
    try {
      const own = entry(where);
      if (own && !(await isWhole(where, own))) throw new Error('its colors are damaged');
      for (const { content } of model.source.files) await take(content);
      const mesh = checkMesh(unpack(await take(model.mesh)));
      const seats = readSeats(model, mesh, own, cells);
      const patches: [string, SeatPatch][] = [];
      for (const { id, name } of kit.variants) {
        const said = entry(patchEntry(id, model.id));
        if (!said) continue;
        if (!(await isWhole(patchEntry(id, model.id), said))) throw new Error(`its colors in “${name}” are damaged`);
        patches.push([id, readPatch(model, mesh, said, cells)]);
      }
      opened.set(model.id, { seats, patches: byId(patches) });
    } catch (error) {
      const problem = `“${model.name}” cannot be opened`;
      leftOut.push(
        error instanceof FileError
          ? new FileError(file, `${problem}: ${error.problem}`, error.where)
          : fileErrorOf(file, error, problem, where),
      );
    }
  }
  if (leftOut.length && !opened.size) throw leftOut[0]!;
  const models = kit.models.flatMap((model) => (opened.has(model.id) ? [{ model, ...opened.get(model.id)! }] : []));
  const state = withPatches(
    {
      kit: withModels(kit, new Set(opened.keys())),
      seats: byId(models.map(({ model, seats }) => [model.id, seats])),
      ...(pixels.length && { pixels: byId(pixels) }),
    },
    patchesByVariant(models),
  );
  return { state, blobs, leftOut: leftOut.map((e) => e.message) };
}

/** A kit with these of its models; what is said of the others goes with them. */
function withModels(kit: Kit, stays: ReadonlySet<string>): Kit {
  const models = kit.models.filter((m) => stays.has(m.id));
  if (models.length === kit.models.length) return kit;
  const variants = kit.variants.filter((v) => v.model === undefined || stays.has(v.model));
  const { placements = [], cues, ...document } = kit;
  const standing = placements.filter((p) => stays.has(p.model));
  const leaves = {
    models: kit.models.filter((m) => !stays.has(m.id)).map((m) => m.id),
    variants: kit.variants.filter((v) => !variants.includes(v)).map((v) => v.id),
    placements: placements.filter((p) => !standing.includes(p)).map((p) => p.id),
  };
  return withoutStrangers({
    ...document,
    models,
    variants,
    ...(standing.length && { placements: standing }),
    ...(cues && { cues: cues.map((c) => cueWithout(c, leaves)) }),
  });
}

const pixelsEntry = (art: string): string => `pixels/${art}.bin`;

/** The texels of an art: as many as it says, of cells that are there. */
function readPixels(file: string, art: string, entry: Uint8Array, known: ReadonlySet<number>): Pixels {
  const { width, height, cells } = unpackedOr(entry) as Partial<Pixels>;
  const isSide = (side: unknown): side is number => Number.isInteger(side) && Number(side) >= 1 && Number(side) <= maxSheetSize;
  const fits = isSide(width) && isSide(height) && cells instanceof Uint16Array && cells.length === width * height;
  if (!fits || cells.some((c) => c !== 0 && !known.has(c)))
    throw new FileError(file, 'its painted art does not fit the kit.', pixelsEntry(art));
  return { width, height, cells };
}

function unpackedOr(entry: Uint8Array): object {
  try {
    return (unpack(entry) as object | null) ?? {};
  } catch {
    return {};
  }
}

const patchEntry = (variant: string, model: string): string => `patches/${variant}/${model}.bin`;

function packedIn(glb: Uint8Array): Uint8Array | undefined {
  try {
    return meshFromGlb(glb);
  } catch {
    return undefined;
  }
}

const sumsEntry = 'sums.json';

/**
 * Whether an entry is as it was written: all have a sum, but in archives of the first version, which had none. Throws
 * `FileError` where there are none though there should be.
 */
function sumsOf(file: string, entry: Uint8Array | undefined, version: number): (name: string, bytes: Uint8Array) => Promise<boolean> {
  if (!entry && version > 1) throw new FileError(file, 'it was cut short, or made by hand: its sums are missing.', sumsEntry);
  const sums = entry ? parseJson(file, strFromU8(entry), 'its sums are damaged', sumsEntry) : {};
  const misfit = misfitOf(sumsSchema, sums);
  if (misfit) throw new FileError(file, `${misfit.words}.`, sumsEntry);
  const known = new Map(Object.entries(sums as object) as [string, string][]);
  return async (name, bytes) => (version === 1 && !known.has(name)) || known.get(name) === (await contentAddress(bytes));
}

/** A model's seats, as far as they fit to its mesh. */
function readSeats(model: Model, mesh: PolyMesh, entry: Uint8Array | undefined, cells: ReadonlySet<number>): Seats {
  const value = entry && (unpack(entry) as Partial<Seats> | null);
  const faces = faceCount(mesh);
  const corners = mesh.cornerVertex.length;
  const { cell, region, at, rule } = value ?? {};
  const isWhole =
    cell instanceof Uint16Array &&
    region instanceof Uint16Array &&
    cell.length === faces &&
    region.length === faces &&
    model.faces === faces &&
    (rule === undefined || (rule instanceof Uint16Array && rule.length === faces));
  if (!isWhole || cell.some((c) => c !== 0 && !cells.has(c))) throw new Error('the colors do not fit the model');
  if (at !== undefined && !(at instanceof Float32Array && at.length === corners * 2 && at.every(Number.isFinite)))
    throw new Error('the seats do not fit the model');
  if (model.seams.some((c) => c >= corners)) throw new Error('its seams do not fit the model');
  const rules = new Set(model.rules?.map((r) => r.id));
  if (rule?.some((r) => r !== 0 && !rules.has(r))) throw new Error('how its faces are laid is not told');
  return { cell, region, ...(at && { at }), ...(rule && { rule }) };
}

/** What a variant says of a model's faces, as far as it fits to the mesh. */
function readPatch(model: Model, mesh: PolyMesh, entry: Uint8Array, cells: ReadonlySet<number>): SeatPatch {
  const { cell, rule, at } = (unpack(entry) ?? {}) as Partial<SeatPatch>;
  const faces = faceCount(mesh);
  const rules = new Set([0, inherits, ...(model.rules ?? []).map((r) => r.id)]);
  const isWhole =
    cell instanceof Uint16Array &&
    cell.length === faces &&
    cell.every((c) => c === inherits || c === 0 || cells.has(c)) &&
    (rule === undefined || (rule instanceof Uint16Array && rule.length === faces && rule.every((r) => rules.has(r)))) &&
    (at === undefined ||
      (at instanceof Float32Array && at.length === mesh.cornerVertex.length * 2 && at.every((v) => Number.isNaN(v) || Number.isFinite(v))));
  const patch = isWhole && withoutIdle({ cell, ...(rule && { rule }), ...(at && { at }) });
  if (!patch) throw new Error('what a variant says of its faces does not fit the model');
  return patch;
}
