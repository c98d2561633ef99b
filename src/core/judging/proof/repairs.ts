import { group, type Edit } from '../../kit/edit/edit';
import { clearanceFor, layAt, moved, noMove } from '../../islands/arrangeIslands';
import { islandsOf } from '../../islands/islandsOf';
import { findSheet, type Cell, type KitState } from '../../kit/kit';
import { unlockedFaces } from '../../faces/regions/regions';
import { findSymmetry } from '../../shapes/pick/symmetry';
import { seatFaces } from '../../kit/edit/seatFaces';
import { usesInAll } from '../../kit/colorings/usesOfCells';
import { mergeColors, spareColors } from '../../sheet/mergeColors';
import { planRelay, relaySheet, type RelayOptions } from '../../sheet/relay';
import { variantsApartIn } from '../judge/twins';
import { sheetInColorings } from '../../kit/colorings/shown';
import { stepApart } from './playSize';
import { exactnessFor, type CheckId, type Finding, type ProofModel, type ProofSettings } from './finding';

const repairable: ReadonlySet<CheckId> = new Set([
  'half-colored',
  'leftover',
  'near-border',
  'merging',
  'bleeding',
  'twins',
  'unused',
  'too-large',
  'odd-size',
]);

/** Whether one edit can repair it. What is so in a variant alone is mended there; texels of other cells that were left behind are the artist's to see to. */
export const isRepairable = ({ check, faces, variant }: Finding): boolean =>
  variant === undefined && repairable.has(check) && (check !== 'leftover' || faces.length > 0);

/**
 * The edit after which a finding is none any more; `null` where nothing can be changed, as in locked regions. `own`: the
 * model that it is about, where it is about one. Throws what stands in the way.
 */
export function repairOf(state: KitState, found: Finding, settings: ProofSettings, own?: ProofModel): Edit | null {
  switch (found.check) {
    case 'half-colored':
      return own ? colorTwins(state, found, own) : null;
    case 'leftover':
      return own ? follow(state, found, own) : null;
    case 'near-border':
      return own ? moveIn(state, found, settings, own) : null;
    case 'merging':
      return own ? stepOn(state, found, own) : null;
    case 'unused':
      return spareColors(state, findSheet(state.kit, found.sheet!), new Set(found.cells), 0);
    case 'twins': {
      const [apart] = variantsApartIn(state.kit, found.cells);
      if (apart) throw new Error(`They differ in the variant “${apart.name}”, which would change. Merge them in Palette if that is meant.`);
      return mergeColors(state, mostUsed(state, found.cells), found.cells);
    }
    case 'bleeding':
    case 'too-large':
    case 'odd-size':
      return layAnew(state, found, exactnessFor(settings));
    default:
      return null;
  }
}

function colorTwins(state: KitState, { faces }: Finding, { model, mesh, adjacency }: ProofModel): Edit | null {
  const seats = state.seats[model.id]!;
  const { twin } = findSymmetry(mesh, adjacency);
  const byCell = new Map<number, number[]>();
  for (const f of unlockedFaces(model, seats, faces)) {
    const cell = twin[f]! < 0 ? 0 : seats.cell[twin[f]!]!;
    if (cell) byCell.set(cell, [...(byCell.get(cell) ?? []), f]);
  }
  const edits = [...byCell].flatMap(([cell, list]) => seatFaces(model.id, seats.cell, Uint32Array.from(list), cell) ?? []);
  return edits.length ? group('Color mirrored faces', edits) : null;
}

/** Faces left behind take the color that the others took. */
function follow(state: KitState, { faces, cells }: Finding, { model }: ProofModel): Edit | null {
  const seats = state.seats[model.id]!;
  const edit = seatFaces(model.id, seats.cell, unlockedFaces(model, seats, faces), cells[1]!);
  return edit && group('Color what was left behind', [edit]);
}

/** Faces of the color that fewer have go to the nearest step of its ramp that is told from the other. */
function stepOn(state: KitState, { faces, cells }: Finding, { model }: ProofModel): Edit | null {
  const to = stepApart(state.kit, [cells[0]!, cells[1]!]);
  if (to === null) throw new Error('Its ramp has no step that would be told from the other. Change one of the two colors in Palette.');
  const seats = state.seats[model.id]!;
  const edit = seatFaces(model.id, seats.cell, unlockedFaces(model, seats, faces), to);
  return edit && group('Part two colors', [edit]);
}

function moveIn(state: KitState, { faces }: Finding, { mipLevels }: ProofSettings, { model, mesh, adjacency }: ProofModel): Edit | null {
  const sheet = findSheet(state.kit, model.sheet);
  const wanted = new Set(faces);
  const clearance = clearanceFor(sheet.filter, mipLevels);
  const { islands, texels } = islandsOf(adjacency, state.seats[model.id]!, sheet);
  const edits = islands.flatMap((island) => {
    if (!island.faces.every((f) => wanted.has(f))) return [];
    const cell = sheet.cells.find((c) => c.id === island.cell)!;
    const free = Math.min(cell.rect.w, cell.rect.h) - 2 * clearance;
    if (free < 1) throw new Error(tooSmall(cell, clearance, mipLevels));
    const inside = moved(island.faces, mesh.faceStart, texels, noMove, cell, clearance);
    return layAt(state, model.id, mesh.faceStart, island.faces, cell.id, inside, 'Keep clear of the border') ?? [];
  });
  return edits.length ? group('Keep clear of the border', edits) : null;
}

/** What stands in the way where the clearance leaves an island less than a texel of its cell. */
function tooSmall({ role, rect: { w, h } }: Cell, clearance: number, mipLevels: number): string {
  const least = Math.ceil(2 * clearance + 1);
  return `“${role || 'The art'}” has ${w} × ${h} texels; at ${mipLevels} mip levels it needs ${least} each way. Make it larger in Palette, or ask for fewer mip levels here.`;
}

function mostUsed(state: KitState, cells: readonly number[]): number {
  const uses = usesInAll(state);
  const faces = (id: number) => uses.get(id)?.faces ?? 0;
  return cells.reduce((best, id) => (faces(id) > faces(best) ? id : best));
}

function layAnew(state: KitState, found: Finding, exactTo: RelayOptions['exactTo']): Edit {
  const sheet = findSheet(state.kit, found.sheet!);
  return relaySheet(
    state.kit,
    sheet,
    planRelay(sheetInColorings(state.kit, sheet), new Set(), { exactTo, spares: 0, dropUnused: false, padding: sheet.padding }),
  );
}
