import { limits } from '../ground/limits';
import { strangerIn } from './cues';
import type { Cell, Kit, LeavingSlot, Model, Rect, Sheet } from './kit';
import { problemOfMotif } from './patterns';
import { problemOfPlacement } from './placementNames';
import { strangerInKit } from './references';

/*
 * What the shape of a kit does not say: unique ids, cells inside their sheet and apart, names that exist. The door looks
 * at what an edit touched, who opens an archive at all of it.
 */

const hasTwins = (list: readonly unknown[]): boolean => new Set(list).size !== list.length;
const ids = (list: readonly { id: unknown }[]): unknown[] => list.map((e) => e.id);

/** Each number with each name that it has: cells of one name leave as one slot. */
const apart = (slots: readonly LeavingSlot[]): LeavingSlot[] =>
  slots.filter((s, i) => !slots.some((t, k) => k < i && t.number === s.number && t.name === s.name));

/** What of a model does not hold together by itself; `null` where all does. */
export function problemOfModel({ faces, regions, rules = [], picks = [], slots }: Model): string | null {
  if (hasTwins(ids(regions))) return 'two regions of a model have the same number';
  if (hasTwins(ids(rules))) return 'two layings of a model have the same number';
  if (hasTwins(ids(picks))) return 'two named picks of a model have the same number';
  if (picks.some(({ spans }) => !isWithin(spans, faces))) return 'named picks do not fit the faces of their model';
  for (const { pattern } of picks) {
    const problem = pattern?.kind === 'motif' ? problemOfMotif(pattern.motif) : null;
    if (problem) return problem;
  }
  if (hasTwins(slots.map((s) => s.cell))) return 'two material slots of a model are of one color';
  if (hasTwins(apart(slots).map((s) => s.number))) return 'two material slots of a model have the same number';
  return null;
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

/** What of a sheet does not hold together by itself; `null` where all does. */
export function problemOfSheet({ cells, ramps, frozen, width, height }: Sheet): string | null {
  if (cells.some(({ rect }) => rect.x + rect.w > width || rect.y + rect.h > height)) return 'a cell lies outside its sheet';
  if (overlapping(cells)) return 'two cells overlap';
  const own = new Set(cells.map((c) => c.id));
  if (ramps.some((r) => r.cells.some((id) => !own.has(id)))) return 'a ramp names a cell that is not there';
  if (ramps.some((r) => hasTwins(r.cells))) return 'a ramp names a cell twice';
  if (frozen?.appended?.some((id) => !own.has(id))) return 'a frozen sheet names a cell that is not there';
  return null;
}

/** Two cells that lie over each other: by rows, so that few pairs are compared. */
export function overlapping(cells: readonly Pick<Cell, 'rect'>[]): boolean {
  const byTop = cells.map((c) => c.rect).sort((a, b) => a.y - b.y);
  let open: Rect[] = [];
  for (const rect of byTop) {
    open = open.filter((o) => o.y + o.h > rect.y);
    if (open.some((o) => o.x < rect.x + rect.w && rect.x < o.x + o.w)) return true;
    open.push(rect);
  }
  return false;
}

/** Lists of a kit in which nothing must be there twice, and whether names tell apart, too. */
type Alone = readonly [list: (kit: Kit) => readonly { id: unknown; name?: string }[], word: string, isNamed?: true][];
const onSheets: Alone = [
  [(kit) => kit.sheets, 'sheets'],
  [(kit) => kit.sheets.flatMap((s) => s.cells), 'cells'],
  [(kit) => kit.sheets.flatMap((s) => s.ramps), 'ramps'],
];
const alone: Alone = [
  [(kit) => kit.models, 'models'],
  [(kit) => kit.variants, 'variants', true],
  [(kit) => kit.references, 'references'],
  [(kit) => kit.handOffs, 'plans'],
  [(kit) => kit.placements ?? [], 'placements', true],
  [(kit) => kit.cues ?? [], 'cues', true],
  [(kit) => kit.motifs ?? [], 'motifs'],
];

function twins(kit: Kit, lists: Alone): string | null {
  for (const [of, word, isNamed] of lists) {
    const entries = of(kit);
    if (hasTwins(ids(entries))) return `two ${word} have the same number`;
    if (isNamed && hasTwins(entries.map((e) => e.name!.trim().toLowerCase()))) return `two ${word} have the same name`;
  }
  return null;
}

/** What of a kit's sheets does not hold together, each taken as a whole; `null` where all does. */
export function problemOfSheets(kit: Kit): string | null {
  if (kit.sheets.reduce((sum, s) => sum + s.width * s.height, 0) > limits.texels)
    return 'its sheets are larger than two of 4,096 × 4,096 texels';
  const numbers = twins(kit, onSheets);
  if (numbers) return numbers;
  return kit.sheets.some((s) => s.cells.some((c) => c.id >= kit.nextCell)) ? 'a cell has a number that was not given out' : null;
}

/** What of a kit does not hold together; `null` where all does. */
export function problemOfKit(kit: Kit): string | null {
  const found = problemOfSheets(kit) ?? twins(kit, alone);
  if (found) return found;
  for (const sheet of kit.sheets) {
    const problem = problemOfSheet(sheet);
    if (problem) return problem;
  }
  for (const model of kit.models) {
    if (!kit.sheets.some((s) => s.id === model.sheet)) return 'a model names a sheet that is not there';
    const problem = problemOfModel(model);
    if (problem) return problem;
  }
  const models = new Set(kit.models.map((m) => m.id));
  if (kit.variants.some((v) => v.model !== undefined && !models.has(v.model))) return 'a variant is of a model that is not there';
  for (const placement of kit.placements ?? []) {
    const problem = problemOfPlacement(kit, placement);
    if (problem) return problem;
  }
  for (const cue of kit.cues ?? []) {
    const problem = strangerIn(kit, cue);
    if (problem) return problem;
  }
  for (const motif of kit.motifs ?? []) {
    const problem = problemOfMotif(motif);
    if (problem) return problem;
  }
  const stranger = strangerInKit(kit);
  return stranger && `it has ${stranger}`;
}
