import { create } from 'zustand';
import type { Hex } from '@/core/color/hex';
import type { Palette } from '@/core/palette/paletteFile';

export type Drafts = Readonly<Record<number, Hex>>;
export const noDrafts: Drafts = {};

export interface ColoringState {
  /** The cell that the phrase names; 0 before any was chosen. */
  cell: number;
  /** The cell under the pointer in the tray; 0 none. */
  pointedCell: number;
  /** Colors that are being tried on cells, by cell, before they are kept. */
  drafts: Drafts;
  /** The open panel beside the sheet. */
  panel:
    | null
    | { kind: 'edit'; cell: number }
    | { kind: 'new'; from: number; onlyHere: boolean }
    | { kind: 'ramp'; ramp: string }
    | { kind: 'new ramp'; from: number }
    | { kind: 'palette'; file: string; palette: Palette }
    | { kind: 'plan'; sheet: string }
    | { kind: 'relay'; sheet: string };
  recent: Hex[];
}

export const useColoring = create<ColoringState>(() => ({ cell: 0, pointedCell: 0, drafts: noDrafts, panel: null, recent: [] }));

export const closeColoring = (): void => useColoring.setState({ pointedCell: 0, drafts: noDrafts, panel: null });

export const closePanel = (): void => useColoring.setState({ panel: null, drafts: noDrafts });
