import type { Hex } from '@/core/ground/color/hex';
import { findCell, type Kit, type Sheet } from '@/core/kit/kit';
import { moveToList } from '@/core/sheet/allowedColors';
import { editCell } from '@/core/sheet/cells';
import { colorsOfFinding } from '@/core/sheet/picture/readBlocks';
import { longWorker } from '@/workers/client';
import { isPicture } from './adopting';
import { announce } from '../told/announce';
import { attempt } from '../color/board';
import { dispatch } from '../kit/edits';
import { kitMoment, useEditor } from '../kit/editor';
import { notifyError } from '../told/notices';

/** Any palette file as the list of colors to keep to. */
export async function openList(file: File): Promise<void> {
  const isNow = kitMoment();
  try {
    const colors = [...new Set(await colorsIn(file))];
    if (!isNow()) return;
    if (!colors.length) throw new Error(`${file.name}: no list of colors was found in it.`);
    const list = { name: file.name, colors };
    if (setList(list)) announce(`Keeping to ${file.name}`);
  } catch (error) {
    notifyError(error);
  }
}

async function colorsIn(file: File): Promise<Hex[]> {
  const bytes = new Uint8Array(await file.arrayBuffer());
  if (isPicture(file.name)) return colorsOfFinding((await longWorker().openPalettePicture(file.name, bytes)).finding);
  return (await longWorker().readPalette(file.name, bytes)).colors.map((c) => c.color);
}

export const forgetList = (): boolean => setList(undefined);

function setList(list: Kit['allowed']): boolean {
  const { allowed } = useEditor.getState().state.kit;
  return dispatch({ kind: 'set', of: 'kit', before: allowed ? { allowed } : {}, after: list ? { allowed: list } : {} }) !== null;
}

export const moveAllToList = (sheet: Sheet, list: readonly Hex[]): boolean =>
  attempt(() => moveToList(sheet, list), 'Every color is on the list');

export function moveColor(id: number, color: Hex): void {
  attempt(() => {
    const { sheet, cell } = findCell(useEditor.getState().state.kit, id)!;
    return editCell(sheet, id, { fill: { ...cell.fill, kind: 'solid', color } });
  });
}
