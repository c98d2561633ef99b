import { maxSheetSize, mostCellIds, mostIn } from '../../ground/limits';
import { usesInAll } from '../../kit/colorings/usesOfCells';
import { groupForAll, type Edit } from '../../kit/edit/edit';
import { newId, type Cell, type Fill, type Kit, type KitState, type Sheet } from '../../kit/kit';
import { canTake, type Going } from '../palette/whereColorsGo';
import { changeCells } from '../arrange';
import { texelsFor } from '../gradientError';
import { planRelay } from '../relay';
import { retireCells } from '../retireCells';
import { sheetInColorings } from '../../kit/colorings/shown';
import { blockNames } from './blockNames';
import type { Block, Finding } from './readBlocks';

export interface Adoption {
  finding: Finding;
  name: string;
  /** Content address of the picture's file. */
  picture: string;
  /** Content addresses of the pixels under blocks of art, by the index of the block. */
  art: ReadonlyMap<number, string>;
  /** Keep the picture byte for byte. */
  frozen: boolean;
  /** The sheet whose place it takes; without one it is added to the kit. */
  replaces?: string;
  /** The block that each cell of that sheet goes to: all that are in use must be there. */
  going?: Going;
}

/** OKLab error up to which a gradient counts as kept. */
const gradientError = 0.012;

/**
 * A palette picture as a sheet: frozen with a cell over each block, or laid out anew at the smallest size
 * that keeps every color, gradient and piece of art (of pixels each color once). Where it takes the place of
 * a sheet, the cells that go to a block keep their ids, roles and finishes on it, and with them their faces,
 * regions and slots; of several that go to one block the first takes in the others. Throws where a limit is
 * passed, and where a cell in use goes nowhere.
 */
export function adoptPicture(state: KitState, adoption: Adoption): { edit: Edit; sheet: Sheet } {
  const { kit } = state;
  const { finding, name, frozen, picture } = adoption;
  if (frozen && Math.max(finding.width, finding.height) > maxSheetSize)
    throw new Error(`The picture has ${finding.width} × ${finding.height} pixels; a frozen sheet can have ${maxSheetSize} a side.`);
  const replaced = kit.sheets.find((s) => s.id === adoption.replaces);
  const blocks = blocksToTake(finding, frozen, adoption.going);
  if (blocks.length > mostIn.cells)
    throw new Error(
      `The picture has ${blocks.length} blocks; a sheet can hold ${mostIn.cells}. Take away lines, or use it as a reference.`,
    );
  const settled = replaced && settle(state, replaced, adoption, blocks);
  const before = settled?.kit.sheets.find((s) => s.id === adoption.replaces);
  const id = before?.id ?? newId('s');
  const names = blockNames(finding.blocks);
  let next = kit.nextCell;
  const cells = blocks.map(({ block, index }): Cell => {
    const old = settled?.kept.get(block);
    const fill = fillOf(block, adoption.art.get(index));
    return { ...(old ?? { id: next++, role: names[index]! }), rect: block.rect, fill };
  });
  if (next > mostCellIds) throw new Error('The kit has used up its 65,534 cell numbers; start a new kit for more colors.');
  const staying = new Set(cells.map((c) => c.id));
  const ramps = (before?.ramps ?? []).flatMap((r) => {
    const own = r.cells.filter((c) => staying.has(c));
    return own.length ? [{ ...r, cells: own }] : [];
  });
  const bare: Sheet = { id, name, width: finding.width, height: finding.height, padding: 0, filter: 'nearest', cells, ramps };
  const { sheet, nextCell } = frozen ? { sheet: { ...bare, frozen: { picture } }, nextCell: next } : smallest(kit, bare, next);
  const edits: Edit[] = [
    ...(settled?.edits ?? []),
    {
      kind: 'put',
      list: 'sheets',
      of: 'kit',
      index: replaced ? kit.sheets.indexOf(replaced) : kit.sheets.length,
      before: before ?? null,
      after: sheet,
    },
    { kind: 'set', of: 'kit', before: { nextCell: kit.nextCell }, after: { nextCell } },
  ];
  return { edit: groupForAll(`Use ${name} as a sheet`, edits), sheet };
}

interface Taken {
  block: Block;
  /** Its place among the blocks that were found. */
  index: number;
}

/**
 * The blocks that become cells. Laid out anew, empty ones fall away, and of pixels each color is there once;
 * on a frozen picture of more pixels than a sheet holds cells, neighbours in a row that are alike are one.
 */
function blocksToTake({ kind, blocks }: Finding, frozen: boolean, going?: Going): Taken[] {
  const all = blocks.map((block, index) => ({ block, index }));
  if (!frozen) {
    const wanted = new Set(going?.values());
    const seen = new Set<string>();
    for (const { block, index } of all) if (wanted.has(index)) seen.add(keyOf(block));
    return all.filter(({ block, index }) => {
      if (block.fill.kind === 'spare') return false;
      if (kind !== 'pixels' || wanted.has(index)) return true;
      const isNew = !seen.has(keyOf(block));
      seen.add(keyOf(block));
      return isNew;
    });
  }
  if (kind !== 'pixels' || blocks.length <= mostIn.cells) return all;
  const out: Taken[] = [];
  const wanted = new Set(going?.values());
  for (const { block, index } of all) {
    const last = out.at(-1);
    const follows = last && last.block.rect.y === block.rect.y && keyOf(last.block) === keyOf(block);
    if (!follows || (wanted.has(index) && wanted.has(last.index))) out.push({ block, index });
    else {
      const rect = { ...last.block.rect, w: last.block.rect.w + 1 };
      out[out.length - 1] = { block: { ...block, rect }, index: wanted.has(index) ? index : last.index };
    }
  }
  return out;
}

const keyOf = ({ fill }: Block): string => JSON.stringify(fill);

/**
 * Which cells of a sheet stay, by the block that they take, and which give way: to the first that goes to the same
 * block, or to none. Throws where faces sit on one that goes nowhere.
 */
function settle(state: KitState, sheet: Sheet, { going = new Map() }: Adoption, blocks: readonly Taken[]) {
  const used = usesInAll(state);
  const kept = new Map<Block, Cell>();
  const successors = new Map<number, number>();
  for (const cell of sheet.cells) {
    const taken = blocks.find((t) => t.index === going.get(cell.id));
    if (!taken || !canTake(cell, taken.block.fill)) {
      if (used.has(cell.id)) throw new Error(`Faces sit on ${cell.role ? `“${cell.role}”` : 'a color'}, which goes to none of its colors.`);
      successors.set(cell.id, 0);
      continue;
    }
    const first = kept.get(taken.block);
    if (first) successors.set(cell.id, first.id);
    else kept.set(taken.block, cell);
  }
  return { ...retireCells(state, successors), kept };
}

function fillOf({ fill }: Block, art: string | undefined): Fill {
  if (fill.kind !== 'art') return fill;
  if (!art) throw new Error('A piece of art of the picture is missing.');
  return { kind: 'art', picture: art };
}

/** Solid cells of one texel, gradients of as many as they need, art pixel for pixel. */
function smallest(kit: Kit, sheet: Sheet, nextCell: number): { sheet: Sheet; nextCell: number } {
  const cells = sheet.cells.map((cell): Cell => {
    if (cell.fill.kind !== 'gradient') return cell;
    const { axis } = cell.fill;
    const texels = Math.min(axis === 'x' ? cell.rect.w : cell.rect.h, texelsFor(cell.fill, gradientError));
    return { ...cell, rect: axis === 'x' ? { ...cell.rect, w: texels, h: 1 } : { ...cell.rect, w: 1, h: texels } };
  });
  // Cells that keep their faces may be gradients in a variant.
  const own = { ...sheet, cells };
  const plan = planRelay(sheetInColorings({ ...kit, sheets: [own] }, own), new Set(), { exactTo: 0, spares: 0, dropUnused: false });
  const rectOf = new Map(plan.places.map((p) => [p.cell.id, p.rect]));
  const laid: Sheet = { ...sheet, width: plan.width, height: plan.height, cells: cells.map((c) => ({ ...c, rect: rectOf.get(c.id)! })) };
  const spares = changeCells({ ...kit, nextCell }, laid, laid, plan.free).flatMap((e) =>
    e.kind === 'put' && e.list === 'cells' && e.after ? [e.after] : [],
  );
  return { sheet: { ...laid, cells: [...laid.cells, ...spares] }, nextCell: nextCell + spares.length };
}

/** In the words of the finding: "8 × 4 blocks of 32 px, 27 colors, 5 empty; 3 gradients". */
export function describeFinding({ kind, grid, width, height, blocks }: Finding): string {
  const of = (k: string) => blocks.filter((b) => b.fill.kind === k).length;
  const n = (count: number, one: string) => `${count} ${one}${count === 1 ? '' : 's'}`;
  if (kind === 'picture') return `Neither blocks nor gradients were found in its ${width} × ${height} pixels.`;
  const colors = [of('solid') && n(of('solid'), 'color'), of('spare') && `${of('spare')} empty`].filter(Boolean).join(', ');
  const rest = [of('gradient') && n(of('gradient'), 'gradient'), of('art') && n(of('art'), 'piece') + ' of art'].filter(Boolean).join(', ');
  const size = grid && (grid.block[0] === grid.block[1] ? `${grid.block[0]}` : `${grid.block[0]} × ${grid.block[1]}`);
  const layout =
    kind === 'pixels'
      ? 'One color a pixel'
      : grid
        ? `${grid.columns} × ${grid.rows} blocks of ${size} px${grid.gutter ? `, ${grid.gutter} px apart` : ''}`
        : '';
  return [[layout, colors].filter(Boolean).join(', '), rest].filter(Boolean).join('; ') + '.';
}
