import { entryShapes, kitShape, sheetShape } from '../kitShape';
import type { Kit, KitState } from '../kit';
import { problemOfMotif } from '../patterns';
import { paintedByVariant, paintedIn, paintedInAll, pixelsOf } from '../pixels';
import { problemOfModel, problemOfSheet, problemOfSheets } from '../problems';
import { pastBounds, type Shape } from '../shape';
import { inherits, mostIn } from '../../ground/limits';
import { leavesOf, type Edit, type PutEdit } from './edit';
import { EditRefused } from './refused';

/**
 * That what an edit brings stays within the bounds of what is kept, so that whatever is made can leave and come back.
 * Throws `EditRefused`.
 */
export function checkBounds({ kit }: KitState, edit: Edit): void {
  const past = (shape: Shape, value: unknown) => {
    const why = pastBounds(shape, value);
    if (why) throw new EditRefused(why);
  };
  switch (edit.kind) {
    case 'put': {
      if (edit.after) past(entryShapes[edit.list], edit.after);
      const list = listOf(kit, edit);
      if (edit.after && !edit.before && list.length >= mostIn[edit.list])
        throw new EditRefused(`there are ${list.length.toLocaleString('en')} ${words[edit.list]} already, and no more can be kept`);
      if (edit.list === 'models' && edit.after) {
        const problem = problemOfModel(edit.after);
        if (problem) throw new EditRefused(problem);
      }
      if (edit.list === 'motifs' && edit.after) {
        const problem = problemOfMotif(edit.after);
        if (problem) throw new EditRefused(problem);
      }
      return;
    }
    case 'stand':
      return edit.puts.forEach(({ after }) => after && past(entryShapes.placements, after));
    case 'set':
      return past(edit.of === 'kit' ? kitShape : sheetShape, edit.after);
    case 'remesh':
      return past(entryShapes.models, { ...edit.after, seats: undefined, patches: undefined });
  }
}

const words: Record<PutEdit['list'], string> = {
  cells: 'cells on this sheet',
  ramps: 'ramps on this sheet',
  sheets: 'sheets',
  models: 'models',
  variants: 'variants',
  placements: 'placements',
  cues: 'cues',
  motifs: 'motifs',
  references: 'references',
  handOffs: 'plans',
};

function listOf(kit: Kit, { list, of }: PutEdit): readonly unknown[] {
  if (list === 'cells' || list === 'ramps') return kit.sheets.find((s) => s.id === of)?.[list] ?? [];
  return kit[list] ?? [];
}

/**
 * That sheets whose layout an edit changed hold together in the end: on the way, cells may lie over each other. Throws
 * `EditRefused`.
 */
export function checkLayouts({ kit }: KitState, edit: Edit): void {
  const touched = new Set(leavesOf(edit).flatMap(laysOut));
  if (!touched.size) return;
  const found = problemOfSheets(kit);
  if (found) throw new EditRefused(found);
  for (const sheet of kit.sheets) {
    const problem = touched.has(sheet.id) && problemOfSheet(sheet);
    if (problem) throw new EditRefused(problem);
  }
}

/** That painted art which an edit brings, or whose texels it takes, has texels in the end. Throws `EditRefused`. */
export function checkArt({ kit, pixels }: KitState, edit: Edit): void {
  const isAbout = leavesOf(edit).some((e) => e.kind === 'canvas' || (e.kind === 'put' && (e.list === 'cells' || e.list === 'sheets')));
  const isOfVariants = leavesOf(edit).some((e) => e.kind === 'put' && e.list === 'variants' && e.after && paintedByVariant(e.after).length);
  if (!isAbout && !isOfVariants) return;
  // A kit may be one that a variant shows.
  if (paintedInAll(kit).some((art) => !pixels?.[pixelsOf(art)])) throw new EditRefused('the texels of its art are not there');
  // Only a variant inherits.
  if (isAbout && paintedIn(kit).some((art) => pixels![pixelsOf(art)]!.cells.includes(inherits)))
    throw new EditRefused('some texels of its art show no cell');
}

/** The sheet (or kit) whose cells or their numbers an edit moves, adds, or takes away, or whose size it changes. */
function laysOut(edit: Edit): string[] {
  if (edit.kind === 'set') return ['width', 'height', 'frozen', 'nextCell'].some((key) => key in edit.after) ? [edit.of] : [];
  if (edit.kind !== 'put') return [];
  if (edit.list === 'sheets') return edit.after ? [edit.after.id] : [];
  if (edit.list === 'ramps') return [edit.of];
  if (edit.list !== 'cells') return [];
  const [a, b] = [edit.before?.rect, edit.after?.rect];
  const isSame = a && b && a.x === b.x && a.y === b.y && a.w === b.w && a.h === b.h;
  return isSame ? [] : [edit.of];
}
