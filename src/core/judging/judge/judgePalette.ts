import { rgbFromHex, type Hex } from '../../ground/color/hex';
import { labDistance, labFromRgb } from '../../ground/color/oklab';
import { contrast } from '../../ground/color/vision';
import { isSame } from '../../kit/edit/refused';
import type { Cell, Sheet } from '../../kit/kit';
import { finishOf } from '../../sheet/finish';

export type Remark =
  /** Two colors that hardly differ. */
  | { kind: 'twins'; cells: [Cell, Cell]; distance: number }
  /** Nothing can be darker or lighter: shading dies on it. */
  | { kind: 'extreme'; cells: [Cell]; extreme: 'black' | 'white' }
  /** A step that is not lighter than the one before it, or lies far from the middle of its neighbours. */
  | { kind: 'out of step'; cells: [Cell]; ramp: string; problem: 'order' | 'uneven' }
  | { kind: 'unused'; cells: Cell[] }
  /** Only a handful of faces. */
  | { kind: 'rare'; cells: [Cell]; faces: number };

export const judgeDefaults = { twins: 0.035, handful: 4 };

/**
 * What an artist may want to look at in a sheet's plain colors. `facesOn`: how many faces of the kit sit on a
 * cell. Distances are OKLab.
 */
export function judgePalette(sheet: Sheet, facesOn: (cell: number) => number, options: Partial<typeof judgeDefaults> = {}): Remark[] {
  const { twins, handful } = { ...judgeDefaults, ...options };
  const solids = sheet.cells.flatMap((cell) =>
    cell.fill.kind === 'solid' ? [{ cell, lab: labFromRgb(rgbFromHex(cell.fill.color)) }] : [],
  );
  const remarks: Remark[] = [];
  const pairs: Extract<Remark, { kind: 'twins' }>[] = [];
  solids.forEach((p, i) => {
    for (const q of solids.slice(i + 1)) {
      const distance = labDistance(p.lab, q.lab);
      // A metal and a cloth of one color are two things.
      if (distance < twins && isSame(finishOf(p.cell), finishOf(q.cell))) pairs.push({ kind: 'twins', cells: [p.cell, q.cell], distance });
    }
  });
  remarks.push(...pairs.sort((p, q) => p.distance - q.distance));
  for (const { cell, lab } of solids) {
    if (lab[0] < 0.06) remarks.push({ kind: 'extreme', cells: [cell], extreme: 'black' });
    if (lab[0] > 0.995) remarks.push({ kind: 'extreme', cells: [cell], extreme: 'white' });
  }
  for (const ramp of sheet.ramps) {
    const steps = ramp.cells.flatMap((id) => solids.find((s) => s.cell.id === id) ?? []);
    remarks.push(...stepsOutOfOrder(steps, ramp.name));
  }
  const used = solids.filter(({ cell }) => facesOn(cell.id) > 0);
  const unused = solids.filter(({ cell }) => facesOn(cell.id) === 0).map((s) => s.cell);
  if (unused.length && used.length) remarks.push({ kind: 'unused', cells: unused });
  for (const { cell } of used) if (facesOn(cell.id) <= handful) remarks.push({ kind: 'rare', cells: [cell], faces: facesOn(cell.id) });
  return remarks;
}

function stepsOutOfOrder(steps: readonly { cell: Cell; lab: readonly number[] }[], ramp: string): Remark[] {
  const out: Remark[] = [];
  for (let i = 1; i < steps.length; i++) {
    const [before, here, next] = [steps[i - 1]!, steps[i]!, steps[i + 1]];
    if (here.lab[0]! <= before.lab[0]!) out.push({ kind: 'out of step', cells: [here.cell], ramp, problem: 'order' });
    else if (next && next.lab[0]! > here.lab[0]!) {
      // Where between its neighbours a step stands: 0.5 is the middle.
      const share = (here.lab[0]! - before.lab[0]!) / (next.lab[0]! - before.lab[0]!);
      if (share < 0.2 || share > 0.8) out.push({ kind: 'out of step', cells: [here.cell], ramp, problem: 'uneven' });
    }
  }
  return out;
}

/** Contrast (WCAG 2, 1 to 21) of each plain color against a background, the weakest first. */
export function contrastsWith(sheet: Sheet, background: Hex): { cell: Cell; contrast: number }[] {
  return sheet.cells
    .flatMap((cell) =>
      cell.fill.kind === 'solid' ? [{ cell, contrast: contrast(rgbFromHex(cell.fill.color), rgbFromHex(background)) }] : [],
    )
    .sort((p, q) => p.contrast - q.contrast);
}
