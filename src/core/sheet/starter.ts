import { hexFromLch } from '../ground/color/hex';
import type { Lch } from '../ground/color/oklab';
import { newId, type Cell, type Kit, type Ramp, type Sheet } from '../kit/kit';

interface RampPlan {
  name: string;
  /** Dark to light. */
  steps: readonly Lch[];
  roles: readonly string[];
}

const lch = (l: number, c: number, h: number): Lch => ({ l, c, h });

/**
 * The palette that a new kit starts with, made in OKLCH: four hues a quarter turn apart, each in shade, plain
 * and in light. Shades drift toward blue and lights toward yellow, as they do under a sky. The darkest
 * neutral is far from black, so that shading still shows on it.
 */
const starterPlans: readonly RampPlan[] = [
  { name: 'Rust', steps: [lch(0.39, 0.1, 18), lch(0.55, 0.145, 30), lch(0.69, 0.13, 42)], roles: ['rust, in shade', 'rust', 'rust, lit'] },
  {
    name: 'Straw',
    steps: [lch(0.5, 0.085, 66), lch(0.68, 0.115, 80), lch(0.85, 0.1, 92)],
    roles: ['straw, in shade', 'straw', 'straw, lit'],
  },
  {
    name: 'Moss',
    steps: [lch(0.38, 0.06, 150), lch(0.53, 0.085, 135), lch(0.7, 0.095, 122)],
    roles: ['moss, in shade', 'moss', 'moss, lit'],
  },
  {
    name: 'Slate',
    steps: [lch(0.34, 0.045, 265), lch(0.5, 0.06, 252), lch(0.68, 0.055, 240)],
    roles: ['slate, in shade', 'slate', 'slate, lit'],
  },
];
const neutrals: RampPlan = {
  name: 'Stone',
  steps: [lch(0.28, 0.014, 280), lch(0.9, 0.018, 95)],
  roles: ['near black', 'chalk'],
};

export const starterSize = 16;
export const starterCell = 4;

/**
 * A 16 × 16 sheet of 4-texel cells: four hues in three steps, two neutrals, and two spares. `firstCell`: the
 * id of its first cell.
 */
export function starterSheet(firstCell = 1, name = 'Sheet'): Sheet {
  const cells: Cell[] = [];
  const ramps: Ramp[] = [];
  const place = (index: number) => ({
    x: (index % 4) * starterCell,
    y: Math.floor(index / 4) * starterCell,
    w: starterCell,
    h: starterCell,
  });
  const add = (fill: Cell['fill'], role: string) => {
    const id = firstCell + cells.length;
    cells.push({ id, rect: place(cells.length), role, fill });
    return id;
  };
  for (const plan of [...starterPlans, neutrals]) {
    const ids = plan.steps.map((step, i) => add({ kind: 'solid', color: hexFromLch(step) }, plan.roles[i]!));
    ramps.push({ id: newId('r'), name: plan.name, cells: ids });
  }
  while (cells.length < 16) add({ kind: 'spare' }, '');
  return { id: newId('s'), name, width: starterSize, height: starterSize, padding: 0, filter: 'nearest', cells, ramps };
}

export function newKit(name: string): Kit {
  const sheet = starterSheet();
  return {
    id: newId('k'),
    name,
    sheets: [sheet],
    models: [],
    variants: [],
    references: [],
    handOffs: [],
    nextCell: 1 + sheet.cells.length,
  };
}
