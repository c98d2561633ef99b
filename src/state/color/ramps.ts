import type { Hex } from '@/core/ground/color/hex';
import { addStep, createRamp, recolorRamp, renameRamp, untieRamp } from '@/core/sheet/ramp/rampEdits';
import { findCell, type Ramp, type Sheet } from '@/core/kit/kit';
import { allowed } from './allowed';
import { announce } from '../told/announce';
import { closePanel, noDrafts, useColoring } from '../chosen/coloringState';
import { attempt, sheetInHand } from './board';
import { useEditor } from '../kit/editor';
import { notify } from '../told/notices';

/** The ramp and its sheet, as they stand. */
export function findRamp(id: string): { sheet: Sheet; ramp: Ramp } | null {
  for (const sheet of useEditor.getState().state.kit.sheets) {
    const ramp = sheet.ramps.find((r) => r.id === id);
    if (ramp) return { sheet, ramp };
  }
  return null;
}

/** `baseCell`: the color that the ramp is made around, if it is no step of another ramp. */
export function makeNewRamp(name: string, colors: Hex[], baseIndex: number, baseCell?: number): void {
  const { state } = useEditor.getState();
  const sheet = (baseCell !== undefined && findCell(state.kit, baseCell)?.sheet) || sheetInHand();
  const made = attempt(
    () => createRamp(state, { sheet: sheet.id, name, colors, baseIndex, ...(baseCell !== undefined && { baseCell }) }).edit,
  );
  if (!made) return;
  closePanel();
  const ramp = findSheetNow(sheet.id).ramps.at(-1)!;
  useColoring.setState({ cell: ramp.cells[baseIndex]! });
  announce(`Ramp ${name}, ${colors.length} steps`);
}

const findSheetNow = (id: string): Sheet => useEditor.getState().state.kit.sheets.find((s) => s.id === id)!;

export function tuneRamp(id: string, colors: readonly Hex[]): void {
  const found = findRamp(id);
  useColoring.setState({ drafts: noDrafts });
  if (found) attempt(() => recolorRamp(found.sheet, found.ramp, colors.map(allowed)));
}

export function addRampStep(id: string, at: number): void {
  const found = findRamp(id);
  if (!found) return;
  const made = attempt(() => addStep(useEditor.getState().state, found.sheet.id, id, at)?.edit ?? null);
  if (!made) notify('There is no color left in that direction.');
}

export function setRampName(id: string, name: string): void {
  const found = findRamp(id);
  if (found && name && name !== found.ramp.name) attempt(() => renameRamp(found.sheet, found.ramp, name));
}

export function untie(id: string): void {
  const found = findRamp(id);
  if (found && attempt(() => untieRamp(found.sheet, found.ramp))) closePanel();
}
