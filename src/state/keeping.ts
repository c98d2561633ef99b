import type { Hex } from '@/core/color/hex';
import { findCell, type Kit, type Sheet } from '@/core/kit/kit';
import { moveToList } from '@/core/palette/allowedColors';
import { editCell } from '@/core/sheet/cells';
import { coreWorker } from '@/workers/client';
import { announce } from './announce';
import { attempt } from './board';
import { dispatch, useEditor } from './editor';
import { notify } from './notices';

/** Any palette file as the list of colors to keep to. */
export async function openList(file: File): Promise<void> {
  try {
    const { colors } = await coreWorker().readPalette(file.name, new Uint8Array(await file.arrayBuffer()));
    const list = { name: file.name, colors: [...new Set(colors.map((c) => c.color))] };
    if (setList(list)) announce(`Keeping to ${file.name}`);
  } catch (error) {
    notify(error instanceof Error ? error.message : String(error), { isError: true });
  }
}

export const forgetList = (): boolean => setList(undefined);

function setList(list: Kit['allowed']): boolean {
  const { allowed } = useEditor.getState().state.kit;
  return dispatch({ kind: 'set', of: 'kit', before: allowed ? { allowed } : {}, after: list ? { allowed: list } : {} });
}

export const moveAllToList = (sheet: Sheet, list: readonly Hex[]): boolean =>
  attempt(() => moveToList(sheet, list), 'Every color is on the list');

export function moveColor(id: number, color: Hex): void {
  attempt(() => {
    const { sheet, cell } = findCell(useEditor.getState().state.kit, id)!;
    return editCell(sheet, id, { fill: { ...cell.fill, kind: 'solid', color } });
  });
}
