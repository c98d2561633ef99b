import { inherits, maxSheetSize, mostIn } from '../../ground/limits';
import { byId } from '../../ground/byId';
import { groupForAll, type Edit } from '../../kit/edit/edit';
import { takeStage } from '../leaving/stageFile';
import { changeCells, freeRects } from '../../sheet/arrange';
import { commonCellSize } from '../../sheet/cells';
import { freeName } from '../../kit/freeName';
import { cellMeeting, mergeVariants, stageIn } from './mergeVariants';
import { patternAfter, type Motif } from '../../kit/patterns';
import { isPainted, newPixelsId, paintedInAll } from '../../kit/pixels';
import {
  newId,
  type Cell,
  type Fill,
  type Kit,
  type KitState,
  type Model,
  type Rect,
  type Seats,
  type Sheet,
  type Variant,
} from '../../kit/kit';

export interface MergedKit {
  edit: Edit;
  models: number;
  /** Colors that were there already, and those that came. */
  met: number;
  came: number;
}

/**
 * Takes all of another kit into this one, as one edit: its models with their seats, its colors, ramps, variants,
 * references and plans, and what stands on its stage. A color that is there already is met, where variants of one name
 * show it alike; others find room on the first sheet that is not frozen, which grows for them. A frozen sheet comes along
 * as it is. A variant of the whole kit goes on in one of its name. No face of either kit changes its color, in no variant
 * that its kit had. Throws where the colors find no room, or where variants or placements would be too many.
 */
export function mergeKit(state: KitState, taken: KitState): MergedKit {
  const { kit } = state;
  const other = withArtOfItsOwn(taken);
  const edits: Edit[] = [];
  const cellOf = new Map<number, number>();
  const sheetOf = new Map<string, string>();
  let [met, came, nextCell, sheets] = [0, 0, kit.nextCell, kit.sheets.length];
  const target = kit.sheets.find((s) => !s.frozen);
  const grown = target && { ...target, cells: [...target.cells], ramps: [...target.ramps] };
  const meeting = cellMeeting(kit, other.kit);
  const known = new Map<string, Met[]>();
  const keep = (cell: Cell, met: Met) => known.set(looksOf(cell), [...(known.get(looksOf(cell)) ?? []), met]);
  for (const cell of grown?.cells ?? []) if (cell.fill.kind !== 'spare') keep(cell, { id: cell.id, own: cell.id, as: null });
  const sheetNames = kit.sheets.map((s) => s.name);
  const newcomers = new Set<number>();
  const roomFor = grown && roomOn(grown);
  for (const sheet of other.kit.sheets) {
    const colors = sheet.cells.filter((c) => c.fill.kind !== 'spare');
    if (sheet.frozen || !grown || !roomFor) {
      const id = newId('s');
      sheetOf.set(sheet.id, id);
      const cells = sheet.cells.map((cell) => ({ ...cell, id: nextCell++ }));
      sheet.cells.forEach((cell, i) => {
        cellOf.set(cell.id, cells[i]!.id);
        newcomers.add(cell.id);
      });
      const ramps = sheet.ramps.map((r) => ({ ...r, id: newId('r'), cells: r.cells.map((c) => cellOf.get(c)!) }));
      const appended = sheet.frozen?.appended?.map((c) => cellOf.get(c)!);
      const frozen = sheet.frozen && { ...sheet.frozen, ...(appended && { appended }) };
      const name = freeName(sheet.name, sheetNames);
      sheetNames.push(name);
      const after = { ...sheet, id, name, cells, ramps, ...(frozen && { frozen }) };
      edits.push({ kind: 'put', list: 'sheets', of: 'kit', index: sheets++, before: null, after });
      came += colors.length;
      continue;
    }
    sheetOf.set(sheet.id, grown.id);
    for (const cell of colors) {
      const as = (met: Met) => meeting(met.own, cell.fill, cell);
      const same = known.get(looksOf(cell))?.find((own) => as(own) !== null && (own.as ?? as(own)) === as(own));
      if (same) {
        met++;
        same.as = as(same);
        cellOf.set(cell.id, same.id);
        continue;
      }
      came++;
      const id = nextCell++;
      keep(cell, { id, own: null, as: meeting(null, cell.fill, cell) });
      cellOf.set(cell.id, id);
      newcomers.add(cell.id);
      grown.cells.push({ ...cell, id, rect: roomFor(cell) });
    }
    for (const ramp of sheet.ramps) {
      const inRamps = new Set(grown.ramps.flatMap((r) => r.cells));
      const cells = [...new Set(ramp.cells.map((c) => cellOf.get(c)!))].filter((c) => !inRamps.has(c));
      if (cells.length) grown.ramps.push({ ...ramp, id: newId('r'), cells });
    }
  }
  if (target && grown) edits.push(...sheetEdits(kit, target, grown, nextCell));
  else edits.push({ kind: 'set', of: 'kit', before: { nextCell: kit.nextCell }, after: { nextCell } });
  edits.push(...pixelsIn(other, cellOf));
  const names = kit.models.map((m) => m.name);
  const models = other.kit.models.map((model) => {
    const name = freeName(model.name, names);
    names.push(name);
    return takenIn(model, name, cellOf, sheetOf);
  });
  const idOf = new Map(models.map((m, i) => [other.kit.models[i]!.id, m.id]));
  const variants = mergeVariants(state, other, { cellOf, came: newcomers, modelOf: idOf });
  edits.push(...variants.ofKit);
  models.forEach((after, i) => {
    const { id } = other.kit.models[i]!;
    const [seats, patches] = [seatsIn(other.seats[id]!, cellOf), variants.patchesOf(id)];
    const put = { kind: 'put', list: 'models', of: 'kit', index: kit.models.length + i, before: null, after, seats } as const;
    edits.push({ ...put, ...(Object.keys(patches).length && { patches }) });
  });
  edits.push(...variants.ofModels);
  const stage = takeStage(kit, stageIn(other.kit, idOf, variants.variantOf), 'beside');
  other.kit.references.forEach((r, i) =>
    edits.push({
      kind: 'put',
      list: 'references',
      of: 'kit',
      index: kit.references.length + i,
      before: null,
      after: { ...r, id: newId('p') },
    }),
  );
  edits.push(...motifsIn(kit, other.kit));
  const plans = kit.handOffs.map((p) => p.name);
  other.kit.handOffs.forEach((plan, i) => {
    const name = freeName(plan.name, plans);
    plans.push(name);
    const parts = plan.parts.map(({ ways, ...part }) => ({
      ...part,
      ...(ways && { ways: byId(Object.entries(ways).flatMap(([id, way]) => (idOf.has(id) ? [[idOf.get(id)!, way]] : []))) }),
    }));
    const model = plan.icon?.model && idOf.get(plan.icon.model);
    const icon = plan.icon && { ...plan.icon, ...(model && { model }) };
    const after = { ...plan, id: newId('h'), name, parts, ...(icon && { icon }) };
    edits.push({ kind: 'put', list: 'handOffs', of: 'kit', index: kit.handOffs.length + i, before: null, after });
  });
  if (stage) edits.push(stage);
  return { edit: groupForAll(`Take in “${other.kit.name}”`, edits), models: models.length, met, came };
}

/** Motifs of another kit, as many as there is room for; those that are drawn alike here are not taken again. */
function motifsIn({ motifs = [] }: Kit, { motifs: came = [] }: Kit): Edit[] {
  const drawn = (m: Motif) => JSON.stringify([m.rows, m.shift ?? 0, m.overlap ?? 0]);
  const own = new Set(motifs.map(drawn));
  const names = motifs.map((m) => m.name);
  return came
    .filter((m) => !own.has(drawn(m)))
    .slice(0, mostIn.motifs - motifs.length)
    .map((motif, i): Edit => {
      const after = { ...motif, id: newId('m'), name: freeName(motif.name, names) };
      names.push(after.name);
      return { kind: 'put', list: 'motifs', of: 'kit', index: motifs.length + i, before: null, after };
    });
}

/** A kit whose painted art has numbers that no other has: taken in twice it comes twice. */
function withArtOfItsOwn(state: KitState): KitState {
  const { kit, pixels } = state;
  if (!pixels) return state;
  const numbers = new Map(paintedInAll(kit).map((art) => [art, newPixelsId()]));
  const fillWith = (fill: Fill): Fill => (isPainted(fill) ? { ...fill, picture: numbers.get(fill.picture)! } : fill);
  const sheets = kit.sheets.map((s) => ({ ...s, cells: s.cells.map((c) => ({ ...c, fill: fillWith(c.fill) })) }));
  const fillsWith = (fills: Variant['fills']) => Object.fromEntries(Object.entries(fills).map(([id, f]) => [id, fillWith(f)]));
  const variants = kit.variants.map((v) => ({ ...v, fills: fillsWith(v.fills) }));
  return { ...state, kit: { ...kit, sheets, variants }, pixels: byId([...numbers].map(([from, to]) => [to, pixels[from]!])) };
}

/** The painted art of another kit, with the numbers that its cells have in this one. */
const pixelsIn = ({ pixels = byId() }: KitState, cellOf: ReadonlyMap<number, number>): Edit[] =>
  Object.entries(pixels).map(([art, own]) => ({
    kind: 'canvas',
    art,
    before: null,
    after: { ...own, cells: own.cells.map((c) => (c === inherits ? inherits : (cellOf.get(c) ?? 0))) },
  }));

/** A cell that further ones of the other kit can be: its own number in this kit where it was there, and how they are shown. */
interface Met {
  id: number;
  own: number | null;
  as: string | null;
}

/** Equal for cells of the same color; what differs from place to place is the same only at one size. */
const looksOf = ({ fill, finish, rect: { w, h } }: Cell): string => JSON.stringify([fill, finish, fill.kind === 'solid' ? 0 : [w, h]]);

/** Finds the first room for one cell after the other among the colors of a sheet, which is doubled until there is some. */
function roomOn(sheet: Sheet): (cell: Cell) => Rect {
  const colors = sheet.cells.filter((c) => c.fill.kind !== 'spare');
  const unit = commonCellSize({ ...sheet, cells: colors.length ? colors : sheet.cells });
  const marginOf = ({ fill }: Pick<Cell, 'fill'>) => (fill.kind === 'art' ? sheet.padding : 0);
  let taken = new Uint8Array(0);
  const mark = ({ x, y, w, h }: Rect, margin: number) => {
    for (let row = Math.max(0, y - margin); row < Math.min(sheet.height, y + h + margin); row++)
      taken.fill(1, row * sheet.width + Math.max(0, x - margin), row * sheet.width + Math.min(sheet.width, x + w + margin));
  };
  const begin = () => {
    taken = new Uint8Array(sheet.width * sheet.height);
    for (const cell of sheet.cells) if (cell.fill.kind !== 'spare') mark(cell.rect, marginOf(cell));
  };
  begin();
  const isFree = (x: number, y: number, w: number, h: number) => {
    for (let row = y; row < y + h; row++)
      for (let at = row * sheet.width + x; at < row * sheet.width + x + w; at++) if (taken[at]) return false;
    return true;
  };
  const find = (w: number, h: number, step: { w: number; h: number }): { x: number; y: number } | null => {
    for (let y = 0; y + h <= sheet.height; y += step.h)
      for (let x = 0; x + w <= sheet.width; x += step.w) if (isFree(x, y, w, h)) return { x, y };
    return null;
  };
  return (cell) => {
    // What is small stays together, on the grid of the cells that are there.
    const isSolid = cell.fill.kind === 'solid';
    const { w, h } = isSolid ? unit : cell.rect;
    const margin = marginOf(cell);
    for (;;) {
      const at = find(w + 2 * margin, h + 2 * margin, isSolid ? unit : { w: 1, h: 1 });
      if (at) {
        const rect = { x: at.x + margin, y: at.y + margin, w, h };
        mark(rect, margin);
        return rect;
      }
      if (Math.min(sheet.width, sheet.height) >= maxSheetSize)
        throw new Error(`“${sheet.name}” has no room for the other kit’s colors, even at its largest.`);
      if (sheet.width <= sheet.height) sheet.width *= 2;
      else sheet.height *= 2;
      begin();
    }
  };
}

/** From a sheet to the same with further cells and ramps; spare cells give way and fill what is left. */
function sheetEdits(kit: Kit, before: Sheet, after: Sheet, nextCell: number): Edit[] {
  const edits: Edit[] = [];
  const fresh = after.cells.slice(before.cells.length);
  fresh.forEach((cell, i) =>
    edits.push({ kind: 'put', list: 'cells', of: before.id, index: before.cells.length + i, before: null, after: cell }),
  );
  after.ramps
    .slice(before.ramps.length)
    .forEach((ramp, i) =>
      edits.push({ kind: 'put', list: 'ramps', of: before.id, index: before.ramps.length + i, before: null, after: ramp }),
    );
  if (nextCell !== kit.nextCell) edits.push({ kind: 'set', of: 'kit', before: { nextCell: kit.nextCell }, after: { nextCell } });
  const { width, height } = after;
  const owner = new Int32Array(width * height).fill(-1);
  const mark = ({ x, y, w, h }: Rect) => {
    for (let row = y; row < y + h; row++) owner.fill(0, row * width + x, row * width + x + w);
  };
  const colors = after.cells.filter((c) => c.fill.kind !== 'spare');
  for (const { rect } of colors) mark(rect);
  const isClear = ({ x, y, w, h }: Rect) => {
    for (let row = y; row < y + h; row++) for (let at = row * width + x; at < row * width + x + w; at++) if (owner[at]! >= 0) return false;
    return true;
  };
  const spares = after.cells.filter((c) => c.fill.kind === 'spare' && isClear(c.rect));
  for (const { rect } of spares) mark(rect);
  const free = freeRects(owner, width, height, commonCellSize({ width, height, cells: colors }));
  const virtual = { ...after, width: before.width, height: before.height };
  return [...edits, ...changeCells({ ...kit, nextCell }, virtual, { width, height, cells: [...colors, ...spares] }, free)];
}

function takenIn(model: Model, name: string, cellOf: ReadonlyMap<number, number>, sheetOf: ReadonlyMap<string, string>): Model {
  return {
    ...model,
    id: newId('m'),
    name,
    sheet: sheetOf.get(model.sheet)!,
    regions: model.regions.map((r) => ({ ...r, cell: cellOf.get(r.cell) ?? 0 })),
    slots: model.slots.flatMap((s) => (cellOf.has(s.cell) ? [{ ...s, cell: cellOf.get(s.cell)! }] : [])),
    ...(model.picks && {
      picks: model.picks.map(({ pattern, ...pick }) => {
        const own = pattern && patternAfter(pattern, (c) => cellOf.get(c) ?? 0);
        return { ...pick, ...(own && { pattern: own }) };
      }),
    }),
  };
}

const seatsIn = (seats: Seats, cellOf: ReadonlyMap<number, number>): Seats => ({
  ...seats,
  cell: seats.cell.map((c) => cellOf.get(c) ?? 0),
});
