import { create } from 'zustand';
import type { Hex } from '@/core/color/hex';

export interface ColoringState {
  /** The cell that the phrase names; 0 before any was chosen. */
  cell: number;
  /** The cell under the pointer in the tray; 0 none. */
  pointedCell: number;
  /** A color that is being tried on a cell, before it is kept. */
  draft: { cell: number; color: Hex } | null;
  /** The open panel beside the sheet. */
  panel: null | { kind: 'edit'; cell: number } | { kind: 'new'; from: number; onlyHere: boolean };
  recent: Hex[];
}

export const useColoring = create<ColoringState>(() => ({ cell: 0, pointedCell: 0, draft: null, panel: null, recent: [] }));

export const closeColoring = (): void => useColoring.setState({ pointedCell: 0, draft: null, panel: null });
