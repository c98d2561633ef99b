import { strFromU8, strToU8 } from 'fflate';
import { checkMesh } from '@/core/mesh/checkMesh';
import { faceCount, type PolyMesh } from '@/core/mesh/polyMesh';
import { FileError, fileErrorOf, limits, parseJson } from '@/core/io/errors';
import type { NamedFile } from '@/core/io/fileKinds';
import { addressNow, contentAddress, pack, unpack } from '@/core/io/pack';
import { meshAsGlb, meshFromGlb } from '@/core/io/meshGlb';
import { unzipped, zipOf } from '@/core/io/zip';
import { contentsOfKit } from '@/core/kit/contents';
import { inherits, type Kit, type KitState, type Model, type Patches, type SeatPatch, type Seats } from '@/core/kit/kit';
import { withoutIdle, withPatches } from '@/core/kit/patches';
import { strangerIn } from '@/core/kit/cues';
import { problemOfPlacement } from '@/core/kit/placementNames';
import { cueWithout } from '@/core/stage/cueEdits';
import { isSameName } from '@/core/kit/variantNames';
import { kitSchema, longestTemplate, longestText, sumsSchema } from './kitSchema';

/** 5: cues; 4: what variants say of faces; 3: meshes as GLB; 2: sums of all entries, and plans; 1 had neither. */
export const archiveVersion = 5;
/** An archive unpacks to at most this many bytes. */
const mostBytes = 512 * 1024 * 1024;
/** And to at most this many times its size, once it is more than a few MB. */
const mostRatio = 200;
const mostAnyway = 64 * 1024 * 1024;
const mostEntries = 20_000;

/**
 * A kit as one zip: `kit.json` (version and document), `seats/MODEL.bin`, `patches/VARIANT/MODEL.bin`, `meshes/ADDRESS.glb`,
 * `blobs/ADDRESS.bin` (files, pictures), `sums.json`; see docs/kit-archive.md. `blobs` must hold everything that
 * the kit names. Times are fixed, so that the same kit gives the same bytes.
 */
export function writeArchive({ kit, seats, patches = {} }: KitState, blobs: ReadonlyMap<string, Uint8Array>): Uint8Array {
  const document = JSON.stringify({ format: 'oligochrome kit', version: archiveVersion, kit }, within, 1);
  const entries: NamedFile[] = [{ name: 'kit.json', bytes: strToU8(document) }];
  for (const { id } of kit.models) entries.push({ name: `seats/${id}.bin`, bytes: pack(seats[id]) });
  for (const [variant, own] of Object.entries(patches))
    for (const [model, patch] of Object.entries(own)) entries.push({ name: patchEntry(variant, model), bytes: pack(patch) });
  const meshes = new Set(kit.models.map((m) => m.mesh));
  for (const id of contentsOfKit(kit)) {
    const bytes = blobs.get(id);
    if (!bytes) throw new Error('A mesh or file of the kit is missing; it cannot be archived.');
    entries.push((meshes.has(id) && meshEntry(id, bytes)) || { name: `blobs/${id}.bin`, bytes });
  }
  const sums: Record<string, string> = {};
  for (const { name, bytes } of entries) sums[name] = name.startsWith('blobs/') ? name.slice(6, -4) : addressNow(bytes);
  return zipOf([...entries, { name: sumsEntry, bytes: strToU8(JSON.stringify(sums, null, 1)) }]);
}

/** `null` where it is broken: then it goes along as it is, and the other models are not held up by it. */
function meshEntry(id: string, packed: Uint8Array): NamedFile | null {
  try {
    return { name: `meshes/${id}.glb`, bytes: meshAsGlb(packed) };
  } catch {
    return null;
  }
}

/** Texts longer than what is let in again are cut, so that whatever leaves opens. */
const within = (key: string, value: unknown): unknown =>
  typeof value === 'string' ? value.slice(0, key === 'template' ? longestTemplate : longestText) : value;

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
  const entries = unzip(file, bytes);
  const kit = readDocument(file, entries['kit.json']);
  const isWhole = sumsOf(file, entries[sumsEntry]);
  if (!(await isWhole('kit.json', entries['kit.json']!))) throw new FileError(file, 'its document is damaged.', 'kit.json');
  const blobs = new Map<string, Uint8Array>();
  const take = async (id: string): Promise<Uint8Array> => {
    const mesh = entries[`meshes/${id}.glb`];
    const where = mesh ? `meshes/${id}.glb` : `blobs/${id}.bin`;
    const blob = blobs.get(id) ?? (mesh ? packedIn(mesh) : entries[where]);
    if (!blob || (await contentAddress(blob)) !== id) throw new FileError(file, 'a part of it is missing or damaged.', where);
    blobs.set(id, blob);
    return blob;
  };
  for (const id of contentsOfKit({ ...kit, models: [] })) await take(id);
  const cells = new Set(kit.sheets.flatMap((s) => s.cells.map((c) => c.id)));
  const seats: Record<string, Seats> = {};
  const patches: Record<string, Record<string, SeatPatch>> = {};
  const leftOut: FileError[] = [];
  for (const model of kit.models) {
    const where = `seats/${model.id}.bin`;
    try {
      if (entries[where] && !(await isWhole(where, entries[where]))) throw new Error('its colors are damaged');
      for (const { content } of model.source.files) await take(content);
      const mesh = checkMesh(unpack(await take(model.mesh)));
      const own = readSeats(model, mesh, entries[where], cells);
      for (const { id, name } of kit.variants) {
        const entry = entries[patchEntry(id, model.id)];
        if (!entry) continue;
        if (!(await isWhole(patchEntry(id, model.id), entry))) throw new Error(`its colors in “${name}” are damaged`);
        (patches[id] ??= {})[model.id] = readPatch(model, mesh, entry, cells);
      }
      seats[model.id] = own;
    } catch (error) {
      const problem = `“${model.name}” cannot be opened`;
      leftOut.push(
        error instanceof FileError
          ? new FileError(file, `${problem}: ${error.problem}`, error.where)
          : fileErrorOf(file, error, problem, where),
      );
    }
  }
  const models = kit.models.filter((m) => seats[m.id]);
  if (leftOut.length && !models.length) throw leftOut[0]!;
  // What is said of a model that is left out goes with it.
  const variants = kit.variants.filter((v) => v.model === undefined || seats[v.model]);
  const said = Object.entries(patches).flatMap(([id, own]) => {
    const left = Object.entries(own).filter(([model]) => seats[model]);
    return left.length ? [[id, Object.fromEntries(left)]] : [];
  });
  const { placements = [], cues, ...document } = kit;
  const standing = placements.filter((p) => seats[p.model]);
  const leaves = {
    models: kit.models.filter((m) => !seats[m.id]).map((m) => m.id),
    variants: kit.variants.filter((v) => !variants.includes(v)).map((v) => v.id),
    placements: placements.filter((p) => !standing.includes(p)).map((p) => p.id),
  };
  const rules = leaves.models.length ? cues?.map((c) => cueWithout(c, leaves)) : cues;
  const state = withPatches(
    { kit: { ...document, models, variants, ...(standing.length && { placements: standing }), ...(rules && { cues: rules }) }, seats },
    Object.fromEntries(said) as Patches,
  );
  return { state, blobs, leftOut: leftOut.map((e) => e.message) };
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

/** Whether an entry is as it was written; what has no sum, as in archives of the first version, is taken as whole. */
function sumsOf(file: string, entry: Uint8Array | undefined): (name: string, bytes: Uint8Array) => Promise<boolean> {
  const sums = entry ? parseJson(file, strFromU8(entry), 'its sums are damaged', sumsEntry) : {};
  const { error } = sumsSchema.validate(sums);
  if (error) throw new FileError(file, error.message, sumsEntry);
  const known = sums as Record<string, string>;
  return async (name, bytes) => !Object.hasOwn(known, name) || known[name] === (await contentAddress(bytes));
}

function unzip(file: string, bytes: Uint8Array): Record<string, Uint8Array> {
  let [total, count] = [0, 0];
  return unzipped(file, bytes, ({ originalSize }) => {
    total += originalSize;
    if (++count > mostEntries) throw new FileError(file, `it holds more than ${mostEntries.toLocaleString('en')} files.`);
    if (total > mostBytes) throw new FileError(file, 'it unpacks to more than 512 MB.');
    if (total > mostAnyway && total > bytes.length * mostRatio)
      throw new FileError(file, `it unpacks to more than ${mostRatio} times its size.`);
    return true;
  });
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
  if (model.picks?.some(({ spans }) => !isWithin(spans, faces))) throw new Error('its named picks do not fit the model');
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

/** Whether pairs of first face and count ascend and stay below a number of faces. */
function isWithin(spans: readonly number[], faces: number): boolean {
  let end = 0;
  for (let i = 0; i < spans.length; i += 2) {
    if (spans[i]! < end || !(spans[i + 1]! > 0)) return false;
    end = spans[i]! + spans[i + 1]!;
  }
  return end <= faces;
}

function readDocument(file: string, bytes: Uint8Array | undefined): Kit {
  if (!bytes) throw new FileError(file, 'it is a zip archive, but no Oligochrome kit (kit.json is missing).');
  const value = parseJson(file, strFromU8(bytes), 'its document is damaged', 'kit.json') as {
    format?: unknown;
    version?: unknown;
    kit?: unknown;
  } | null;
  if (value?.format !== 'oligochrome kit') throw new FileError(file, 'it is no Oligochrome kit.', 'kit.json');
  if (!Number.isInteger(value.version) || (value.version as number) < 1)
    throw new FileError(file, 'it does not say which version it is of.', 'kit.json');
  if ((value.version as number) > archiveVersion)
    throw new FileError(
      file,
      `it is of version ${String(value.version)}, and this Oligochrome reads up to ${archiveVersion}. Open it with the one that made it.`,
      'kit.json',
    );
  const since2 = (value.version as number) < 2 ? fromVersion1(value.kit) : value.kit;
  const migrated = (value.version as number) < 4 ? fromVersion3(since2) : since2;
  const { error } = kitSchema.validate(migrated, { allowUnknown: false });
  if (error) throw new FileError(file, error.message, 'kit.json');
  const kit = migrated as Kit;
  const problem = inconsistency(kit);
  if (problem) throw new FileError(file, problem, 'kit.json');
  return kit;
}

/** Plans were not made then: what stood in their place says nothing. */
const fromVersion1 = (kit: unknown): unknown => (typeof kit === 'object' && kit !== null ? { ...kit, handOffs: [] } : kit);

/** No variant could be made then. */
const fromVersion3 = (kit: unknown): unknown => (typeof kit === 'object' && kit !== null ? { ...kit, variants: [] } : kit);

/** What a schema cannot say: unique ids, cells inside their sheet and apart, names that exist. */
function inconsistency(kit: Kit): string | null {
  if (kit.sheets.reduce((sum, s) => sum + s.width * s.height, 0) > limits.texels)
    return 'its sheets are larger than two of 4,096 × 4,096 texels.';
  const ids = kit.sheets.flatMap((s) => s.cells.map((c) => c.id));
  if (new Set(ids).size !== ids.length) return 'two cells have the same number.';
  if (ids.some((id) => id >= kit.nextCell)) return 'a cell has a number that was not given out.';
  for (const { cells, ramps, width, height } of kit.sheets) {
    const taken = new Uint8Array(width * height);
    for (const { rect } of cells) {
      if (rect.x + rect.w > width || rect.y + rect.h > height) return 'a cell lies outside its sheet.';
      for (let y = rect.y; y < rect.y + rect.h; y++)
        for (let x = rect.x; x < rect.x + rect.w; x++) if (taken[y * width + x]!++) return 'two cells overlap.';
    }
    if (ramps.some((r) => r.cells.some((id) => !cells.some((c) => c.id === id)))) return 'a ramp names a cell that is not there.';
  }
  if (new Set(kit.models.map((m) => m.id)).size !== kit.models.length) return 'two models have the same number.';
  const { variants } = kit;
  if (variants.some((v, i) => variants.some((w, k) => k < i && (w.id === v.id || isSameName(w.name, v.name)))))
    return 'two variants have the same name.';
  for (const placement of kit.placements ?? []) {
    const problem = problemOfPlacement(kit, placement);
    if (problem) return `${problem}.`;
  }
  for (const own of [kit.placements?.map((p) => p.id), kit.placements?.map((p) => p.name.toLowerCase())])
    if (new Set(own).size !== (own?.length ?? 0)) return 'two placements have the same number or name.';
  for (const cue of kit.cues ?? []) {
    const problem = strangerIn(kit, cue);
    if (problem) return `${problem}.`;
  }
  for (const own of [kit.cues?.map((c) => c.id), kit.cues?.map((c) => c.name.toLowerCase())])
    if (new Set(own).size !== (own?.length ?? 0)) return 'two cues have the same number or name.';
  if (kit.models.some((m) => !kit.sheets.some((s) => s.id === m.sheet))) return 'a model names a sheet that is not there.';
  return null;
}
