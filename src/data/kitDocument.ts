import { strFromU8 } from 'fflate';
import { FileError, parseJson } from '@/core/io/errors';
import { inOneOrder } from '@/core/inOneOrder';
import { strangerIn } from '@/core/kit/cues';
import type { Kit, LeavingSlot } from '@/core/kit/kit';
import { problemOfPlacement } from '@/core/kit/placementNames';
import { strangerInKit, withoutStrangers } from '@/core/kit/references';
import { withOneName } from '@/core/slots/slots';
import { limits, longestTemplate, longestText } from '@/core/limits';
import { misfitOf } from './checked';
import { kitSchema } from './kitSchema';

/**
 * 6: all that is named is there; 5: cues; 4: what variants say of faces; 3: meshes as GLB; 2: sums of all entries, and
 * plans; 1 had neither.
 */
export const archiveVersion = 6;
const format = 'oligochrome kit';
const where = 'kit.json';

/** A kit's document as it is written: the same kit gives the same text. */
export const writeDocument = (kit: Kit): string =>
  JSON.stringify({ format, version: archiveVersion, kit: inOneOrder(whole(kit)) }, within, 1);

/** Texts longer than what is let in again are cut, so that whatever leaves opens. */
const within = (key: string, value: unknown): unknown =>
  typeof value === 'string' ? value.slice(0, key === 'template' ? longestTemplate : longestText) : value;

/** The kit of a document, and the version in which it was written. Throws `FileError` where anything in it is not as it must be. */
export function readDocument(file: string, bytes: Uint8Array | undefined): { kit: Kit; version: number } {
  if (!bytes) throw new FileError(file, 'it is a zip archive, but no Oligochrome kit (kit.json is missing).');
  const value = parseJson(file, strFromU8(bytes), 'its document is damaged', where) as {
    format?: unknown;
    version?: unknown;
    kit?: unknown;
  } | null;
  if (value?.format !== format) throw new FileError(file, 'it is no Oligochrome kit.', where);
  const { version } = value;
  if (typeof version !== 'number' || !Number.isInteger(version) || version < 1)
    throw new FileError(file, 'it does not say which version it is of.', where);
  if (version > archiveVersion)
    throw new FileError(
      file,
      `it is of version ${version}, and this Oligochrome reads up to ${archiveVersion}. Open it with the one that made it.`,
      where,
    );
  const since2 = version < 2 ? fromVersion1(value.kit) : value.kit;
  const migrated = version < 4 ? fromVersion3(since2) : since2;
  const misfit = misfitOf(kitSchema, migrated);
  if (misfit) throw new FileError(file, `${misfit.words}.`, where);
  const kit = version < 6 ? whole(migrated as Kit) : (migrated as Kit);
  const problem = inconsistency(kit);
  if (problem) throw new FileError(file, problem, where);
  return { kit, version };
}

/** A kit that speaks of nothing that is not there, and of whose material slots each has one name. */
function whole(kit: Kit): Kit {
  return withoutStrangers({ ...kit, models: kit.models.map((m) => ({ ...m, slots: withOneName(m.slots) })) });
}

/** Plans were not made then: what stood in their place says nothing. */
const fromVersion1 = (kit: unknown): unknown => (typeof kit === 'object' && kit !== null ? { ...kit, handOffs: [] } : kit);

/** No variant could be made then. */
const fromVersion3 = (kit: unknown): unknown => (typeof kit === 'object' && kit !== null ? { ...kit, variants: [] } : kit);

interface Entry {
  id?: unknown;
  name?: string;
  number?: unknown;
}

/** Lists in which something must not be there twice: which, what an entry is called, and by what two are told apart. */
const alone: readonly [list: (kit: Kit) => readonly (readonly Entry[])[], words: string, of: (e: Entry) => unknown][] = [
  [(kit) => [kit.sheets], 'sheets have the same number', (e) => e.id],
  [(kit) => [kit.sheets.flatMap((s) => s.cells)], 'cells have the same number', (e) => e.id],
  [(kit) => [kit.sheets.flatMap((s) => s.ramps)], 'ramps have the same number', (e) => e.id],
  [(kit) => [kit.models], 'models have the same number', (e) => e.id],
  [(kit) => kit.models.map((m) => m.regions), 'regions of a model have the same number', (e) => e.id],
  [(kit) => kit.models.map((m) => m.rules ?? []), 'layings of a model have the same number', (e) => e.id],
  [(kit) => kit.models.map((m) => m.picks ?? []), 'named picks of a model have the same number', (e) => e.id],
  [(kit) => kit.models.map((m) => m.slots.map((s) => ({ id: s.cell }))), 'material slots of a model are of one color', (e) => e.id],
  [(kit) => kit.models.map((m) => slotNames(m.slots)), 'material slots of a model have the same number', (e) => e.number],
  [(kit) => [kit.variants], 'variants have the same number', (e) => e.id],
  [(kit) => [kit.variants], 'variants have the same name', (e) => e.name!.trim().toLowerCase()],
  [(kit) => [kit.references], 'references have the same number', (e) => e.id],
  [(kit) => [kit.handOffs], 'plans have the same number', (e) => e.id],
  [(kit) => [kit.placements ?? []], 'placements have the same number', (e) => e.id],
  [(kit) => [kit.placements ?? []], 'placements have the same name', (e) => e.name!.toLowerCase()],
  [(kit) => [kit.cues ?? []], 'cues have the same number', (e) => e.id],
  [(kit) => [kit.cues ?? []], 'cues have the same name', (e) => e.name!.toLowerCase()],
];

/** Each number with each name that it has: cells of one name leave as one slot. */
const slotNames = (slots: readonly LeavingSlot[]): Entry[] =>
  slots.filter((s, i) => !slots.some((t, k) => k < i && t.number === s.number && t.name === s.name));

/** What a schema cannot say: unique ids, cells inside their sheet and apart, names that exist. */
function inconsistency(kit: Kit): string | null {
  if (kit.sheets.reduce((sum, s) => sum + s.width * s.height, 0) > limits.texels)
    return 'its sheets are larger than two of 4,096 × 4,096 texels.';
  for (const [lists, words, of] of alone)
    for (const list of lists(kit)) if (new Set(list.map(of)).size !== list.length) return `two ${words}.`;
  if (kit.sheets.some((s) => s.cells.some((c) => c.id >= kit.nextCell))) return 'a cell has a number that was not given out.';
  for (const { cells, ramps, frozen, width, height } of kit.sheets) {
    const taken = new Uint8Array(width * height);
    for (const { rect } of cells) {
      if (rect.x + rect.w > width || rect.y + rect.h > height) return 'a cell lies outside its sheet.';
      for (let y = rect.y; y < rect.y + rect.h; y++)
        for (let x = rect.x; x < rect.x + rect.w; x++) if (taken[y * width + x]!++) return 'two cells overlap.';
    }
    const own = new Set(cells.map((c) => c.id));
    if (ramps.some((r) => r.cells.some((id) => !own.has(id)))) return 'a ramp names a cell that is not there.';
    if (ramps.some((r) => new Set(r.cells).size !== r.cells.length)) return 'a ramp names a cell twice.';
    if (frozen?.appended?.some((id) => !own.has(id))) return 'a frozen sheet names a cell that is not there.';
  }
  if (kit.models.some((m) => !kit.sheets.some((s) => s.id === m.sheet))) return 'a model names a sheet that is not there.';
  const models = new Set(kit.models.map((m) => m.id));
  if (kit.variants.some((v) => v.model !== undefined && !models.has(v.model))) return 'a variant is of a model that is not there.';
  for (const placement of kit.placements ?? []) {
    const problem = problemOfPlacement(kit, placement);
    if (problem) return `${problem}.`;
  }
  for (const cue of kit.cues ?? []) {
    const problem = strangerIn(kit, cue);
    if (problem) return `${problem}.`;
  }
  const stranger = strangerInKit(kit);
  return stranger && `it has ${stranger}.`;
}
