import { strFromU8, strToU8, unzipSync, zipSync, type Zippable } from 'fflate';
import Joi from 'joi';
import { checkMesh } from '@/core/mesh/checkMesh';
import { faceCount, type PolyMesh } from '@/core/mesh/polyMesh';
import { FileError, fileErrorOf, limits, parseJson } from '@/core/io/errors';
import { contentAddress, pack, unpack } from '@/core/io/pack';
import { contentsOfKit } from '@/core/kit/contents';
import type { Kit, KitState, Model, Seats } from '@/core/kit/kit';
import { ruleNames } from '@/core/seat/gradientRules';
import { mostBands, mostRepeats } from '@/core/seat/seatRule';

export const archiveVersion = 1;
/** Longest name or role in an archive, in characters. */
const longestText = 500;
/** An archive unpacks to at most this many bytes. */
const mostBytes = 512 * 1024 * 1024;

/**
 * A kit as one zip: `kit.json` (version and document), `seats/MODEL.bin`, `blobs/ADDRESS.bin` (meshes, files,
 * pictures). `blobs` must hold everything that the kit names. Times are fixed, so that the same kit gives the
 * same bytes.
 */
export function writeArchive({ kit, seats }: KitState, blobs: ReadonlyMap<string, Uint8Array>): Uint8Array {
  const entries: Zippable = { 'kit.json': strToU8(JSON.stringify({ format: 'oligochrome kit', version: archiveVersion, kit }, within, 1)) };
  for (const model of kit.models) entries[`seats/${model.id}.bin`] = pack(seats[model.id]);
  for (const id of contentsOfKit(kit)) {
    const bytes = blobs.get(id);
    if (!bytes) throw new Error('A mesh or file of the kit is missing; it cannot be archived.');
    entries[`blobs/${id}.bin`] = bytes;
  }
  // Zip keeps the time on the clock: made of its parts it is the same in every time zone.
  return zipSync(entries, { level: 6, mtime: new Date(2020, 0, 1) });
}

/** Texts longer than what is let in again are cut, so that whatever leaves opens. */
const within = (_: string, value: unknown): unknown => (typeof value === 'string' ? value.slice(0, longestText) : value);

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
  const blobs = new Map<string, Uint8Array>();
  const take = async (id: string): Promise<Uint8Array> => {
    const blob = blobs.get(id) ?? entries[`blobs/${id}.bin`];
    if (!blob || (await contentAddress(blob)) !== id) throw new FileError(file, 'a part of it is missing or damaged.', `blobs/${id}.bin`);
    blobs.set(id, blob);
    return blob;
  };
  for (const id of contentsOfKit({ ...kit, models: [] })) await take(id);
  const cells = new Set(kit.sheets.flatMap((s) => s.cells.map((c) => c.id)));
  const seats: Record<string, Seats> = {};
  const leftOut: FileError[] = [];
  for (const model of kit.models) {
    const where = `seats/${model.id}.bin`;
    try {
      for (const { content } of model.source.files) await take(content);
      seats[model.id] = readSeats(model, checkMesh(unpack(await take(model.mesh))), entries[where], cells);
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
  const variants = kit.variants
    .filter((v) => v.model === undefined || seats[v.model])
    .map((v) => ({ ...v, seats: v.seats.filter((s) => seats[s.model]) }));
  return { state: { kit: { ...kit, models, variants }, seats }, blobs, leftOut: leftOut.map((e) => e.message) };
}

function unzip(file: string, bytes: Uint8Array): Record<string, Uint8Array> {
  let total = 0;
  try {
    return unzipSync(bytes, {
      filter: ({ originalSize }) => {
        total += originalSize;
        if (total > mostBytes) throw new FileError(file, 'it unpacks to more than 512 MB.');
        return true;
      },
    });
  } catch (error) {
    if (error instanceof FileError) throw error;
    throw new FileError(file, 'it is not a zip archive, or it is damaged.');
  }
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
  if (typeof value.version !== 'number' || value.version > archiveVersion)
    throw new FileError(file, 'it was made by a newer version of Oligochrome.', 'kit.json');
  const { error } = kitSchema.validate(value.kit, { allowUnknown: false });
  if (error) throw new FileError(file, error.message, 'kit.json');
  const kit = value.kit as Kit;
  const problem = inconsistency(kit);
  if (problem) throw new FileError(file, problem, 'kit.json');
  return kit;
}

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
  if (kit.models.some((m) => !kit.sheets.some((s) => s.id === m.sheet))) return 'a model names a sheet that is not there.';
  return null;
}

const text = Joi.string().allow('').max(longestText);
const id = Joi.string().pattern(/^[\w-]{1,64}$/);
const address = Joi.string().pattern(/^[0-9a-f]{32}$/);
const hex = Joi.string().pattern(/^#[0-9a-f]{6}$/);
const texels = Joi.number().integer().min(0).max(4096);
const cellId = Joi.number().integer().min(1).max(65535);
const mix = Joi.valid('oklab', 'srgb');
const fill = Joi.alternatives(
  Joi.object({ kind: Joi.valid('solid').required(), color: hex.required(), alpha: Joi.number().min(0).max(1) }),
  Joi.object({
    kind: Joi.valid('gradient').required(),
    axis: Joi.valid('x', 'y').required(),
    stops: Joi.array()
      .items(Joi.object({ at: Joi.number().min(0).max(1).required(), color: hex.required() }))
      .min(2)
      .max(8)
      .required(),
    mix: mix.required(),
    bands: Joi.number().integer().min(2).max(64),
  }),
  Joi.object({ kind: Joi.valid('corners').required(), colors: Joi.array().items(hex).length(4).required(), mix: mix.required() }),
  Joi.object({ kind: Joi.valid('art').required(), picture: address.required(), repeats: Joi.boolean() }),
  Joi.object({ kind: Joi.valid('spare').required() }),
);
const cell = Joi.object({
  id: cellId.required(),
  rect: Joi.object({ x: texels.required(), y: texels.required(), w: texels.min(1).required(), h: texels.min(1).required() }).required(),
  role: text.required(),
  fill: fill.required(),
  finish: Joi.object({ roughness: Joi.number().min(0).max(1).required(), metalness: Joi.number().min(0).max(1).required(), glow: hex }),
});
const sheet = Joi.object({
  id: id.required(),
  name: text.required(),
  width: texels.min(1).required(),
  height: texels.min(1).required(),
  padding: texels.required(),
  filter: Joi.valid('nearest', 'linear').required(),
  frozen: Joi.object({ picture: address.required(), appended: Joi.array().items(cellId).max(2000) }),
  cells: Joi.array().items(cell).max(2000).required(),
  ramps: Joi.array()
    .items(Joi.object({ id: id.required(), name: text.required(), cells: Joi.array().items(cellId).max(64).required() }))
    .max(2000)
    .required(),
});
const named = { id: id.required(), name: text.required() };
const point = Joi.array().items(Joi.number().min(-1e6).max(1e6)).length(3);
const share = Joi.number().min(0).max(1);
const laying = Joi.object({
  rule: Joi.valid(...ruleNames).required(),
  start: share.required(),
  end: share.required(),
  repeat: Joi.number().min(1).max(mostRepeats).required(),
  offset: share.required(),
  tone: Joi.valid('smooth', 'face', 'bands').required(),
  bands: Joi.number().integer().min(2).max(mostBands).required(),
  over: Joi.valid('pick', 'part').required(),
  screenUp: point.required(),
  line: Joi.array().items(point).length(2),
});
const model = Joi.object({
  ...named,
  mesh: address.required(),
  faces: Joi.number().integer().min(1).max(limits.faces).required(),
  sheet: id.required(),
  regions: Joi.array()
    .items(
      Joi.object({
        id: cellId.required(),
        name: text.required(),
        cell: Joi.number().integer().min(0).max(65535).required(),
        locked: Joi.boolean(),
      }),
    )
    .required(),
  slots: Joi.array()
    .items(
      Joi.object({
        number: Joi.number().integer().min(0).required(),
        name: text.required(),
        cell: cellId.required(),
        named: Joi.valid(true),
      }),
    )
    .required(),
  source: Joi.object({
    format: Joi.valid('obj', 'gltf', 'ply', 'stl', 'made').required(),
    name: text.required(),
    files: Joi.array()
      .items(Joi.object({ name: text.required(), content: address.required() }))
      .max(1000)
      .required(),
    bytes: Joi.number().integer().min(0),
    triangles: Joi.number().integer().min(0),
    mended: Joi.number().integer().min(0),
  }).required(),
  placement: Joi.object({ upFromZ: Joi.boolean().required(), scale: Joi.number().greater(0).required() }),
  sides: Joi.valid('front', 'both'),
  seams: Joi.array().items(Joi.number().integer().min(0)).required(),
  rules: Joi.array()
    .max(65535)
    .unique('id')
    .items(Joi.object({ id: cellId.required(), along: laying.required(), cross: laying })),
  picks: Joi.array()
    .max(100)
    .items(
      Joi.object({
        id: Joi.number().integer().min(1).required(),
        name: text.required(),
        spans: Joi.array().items(Joi.number().integer().min(0)).required(),
      }),
    ),
});
const kitSchema = Joi.object({
  ...named,
  sheets: Joi.array().items(sheet).min(1).max(64).required(),
  models: Joi.array().items(model).max(1000).required(),
  variants: Joi.array()
    .items(
      Joi.object({
        ...named,
        model: id,
        fills: Joi.object().pattern(/^\d+$/, fill).required(),
        seats: Joi.array()
          .items(Joi.object({ model: id.required(), spans: Joi.array().items(Joi.number().integer().min(0)).required() }))
          .required(),
      }),
    )
    .required(),
  references: Joi.array()
    .items(Joi.object({ ...named, picture: address.required() }))
    .required(),
  handOffs: Joi.array()
    .items(Joi.object({ ...named, format: text.required() }))
    .required(),
  allowed: Joi.object({ name: text.required(), colors: Joi.array().items(hex).min(1).max(20_000).required() }),
  proof: Joi.object({
    mipLevels: Joi.number().integer().min(0).max(12).required(),
    stretch: Joi.number().min(1).max(100).required(),
    materials: Joi.number().integer().min(1).max(10_000).required(),
    waived: Joi.array()
      .items(Joi.object({ check: text.required(), model: text, reason: text.allow('').required() }))
      .max(10_000)
      .required(),
  }),
  slotsFrom: Joi.valid(0, 1),
  nextCell: Joi.number().integer().min(1).max(65536).required(),
});
