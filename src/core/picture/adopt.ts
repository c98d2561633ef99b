import { group, type Edit } from '../edit/edit';
import { newId, type Cell, type Fill, type Kit, type Sheet } from '../kit/kit';
import { changeCells } from '../sheet/arrange';
import { maxSheetSize, mostCells } from '../sheet/cells';
import { texelsFor } from '../sheet/gradientError';
import { planRelay } from '../sheet/relay';
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
}

/** OKLab error up to which a gradient counts as kept. */
const gradientError = 0.012;

/**
 * A palette picture as a sheet: frozen with a cell over each block, or laid out anew at the smallest size
 * that keeps every color, gradient and piece of art. Throws where a limit is passed.
 */
export function adoptPicture(kit: Kit, adoption: Adoption): { edit: Edit; sheet: Sheet } {
  const { finding, name, frozen, picture } = adoption;
  if (frozen && Math.max(finding.width, finding.height) > maxSheetSize)
    throw new Error(`The picture has ${finding.width} × ${finding.height} pixels; a frozen sheet can have ${maxSheetSize} a side.`);
  if (finding.blocks.length > mostCells)
    throw new Error(
      `The picture has ${finding.blocks.length} blocks; a sheet can hold ${mostCells}. Take away lines, or use it as a reference.`,
    );
  const before = kit.sheets.find((s) => s.id === adoption.replaces);
  const id = before?.id ?? newId('s');
  let next = kit.nextCell;
  const cells = finding.blocks.flatMap((block, i): Cell[] => {
    const fill = fillOf(block, adoption.art.get(i));
    if (!frozen && fill.kind === 'spare') return [];
    return [{ id: next++, role: '', rect: block.rect, fill }];
  });
  if (next > 65535) throw new Error('The kit has used up its 65,535 cell numbers; start a new kit for more colors.');
  const bare: Sheet = { id, name, width: finding.width, height: finding.height, padding: 0, filter: 'nearest', cells, ramps: [] };
  const { sheet, nextCell } = frozen ? { sheet: { ...bare, frozen: { picture } }, nextCell: next } : smallest(kit, bare, next);
  const edits: Edit[] = [
    {
      kind: 'put',
      list: 'sheets',
      of: 'kit',
      index: before ? kit.sheets.indexOf(before) : kit.sheets.length,
      before: before ?? null,
      after: sheet,
    },
    { kind: 'set', of: 'kit', before: { nextCell: kit.nextCell }, after: { nextCell } },
  ];
  return { edit: group(`Use ${name} as a sheet`, edits), sheet };
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
  const plan = planRelay({ ...sheet, cells }, new Set(), { exactTo: 0, spares: 0, dropUnused: false });
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
