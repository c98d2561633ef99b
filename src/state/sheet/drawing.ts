import { create } from 'zustand';
import type { Hex } from '@/core/ground/color/hex';
import { applyEdit } from '@/core/kit/edit/editKinds';
import { group, type Edit } from '@/core/kit/edit/edit';
import { makeRamp } from '@/core/sheet/ramp/makeRamp';
import { createRamp } from '@/core/sheet/ramp/rampEdits';
import { newColor } from '@/core/sheet/newColor';
import { announce } from '../told/announce';
import { attempt, boardSheet, selectCells } from '../color/board';
import { setCellColor } from '../color/coloring';
import { useColoring } from '../chosen/coloringState';
import { useEditor } from '../kit/editor';
import { perKit } from '../chosen/session';

/** How colors are taken from a reference. */
export const useDropper = perKit(
  create<{ radius: number; target: 'new' | 'cell'; under: Hex | null; floating: string | null }>(() => ({
    radius: 4,
    target: 'new',
    under: null,
    floating: null,
  })),
);

/** A color from a picture goes into the chosen cell, or becomes a new one. */
export function takeColor(color: Hex, from: string): void {
  const { cell } = useColoring.getState();
  if (useDropper.getState().target === 'cell' && cell) {
    setCellColor(cell, color);
    announce(`${color} taken`);
    return;
  }
  const made = addColors([{ color, role: `from ${from}` }], 'Take a color from a picture');
  if (made) useColoring.setState({ cell: made });
}

/** Colors on spare cells, the sheet growing where it must; one edit. Returns the last cell. */
export function addColors(colors: readonly { color: Hex; role: string }[], label: string): number | null {
  let last: number | null = null;
  const isDone = attempt(
    () => {
      let next = useEditor.getState().state;
      const edits: Edit[] = [];
      for (const { color, role } of colors) {
        const made = newColor(next, { sheet: boardSheet().id, color, role });
        edits.push(made.edit);
        next = applyEdit(next, made.edit);
        last = made.cell;
      }
      return group(label, edits);
    },
    colors.length === 1 ? 'A color was added' : `${colors.length} colors were added`,
  );
  return isDone ? last : null;
}

/** A ramp around each color; one edit. */
export function addRamps(colors: readonly { color: Hex; role: string }[], steps: number): void {
  const isDone = attempt(() => {
    let next = useEditor.getState().state;
    const edits: Edit[] = [];
    for (const { color, role } of colors) {
      const ramp = makeRamp(color, { steps });
      const made = createRamp(next, { sheet: boardSheet().id, name: role, ...ramp });
      edits.push(made.edit);
      next = applyEdit(next, made.edit);
    }
    return group(`Make ${colors.length} ramps`, edits);
  }, `${colors.length} ramps were added`);
  if (isDone) selectCells([]);
}
