import { create } from 'zustand';
import type { Hex } from '@/core/ground/color/hex';
import type { Fill, Sheet } from '@/core/kit/kit';
import type { Finding } from '@/core/sheet/picture/readBlocks';
import type { Raster } from '@/core/ground/pictures/raster';
import type { Palette } from '@/core/ground/palettes/palette';
import { perKit } from './session';

/** Fills that are being tried, by cell. */
export type Drafts = Readonly<Record<number, Fill>>;
export const noDrafts: Drafts = {};

export type Point = readonly [x: number, y: number];
export const middle: Point = [0.5, 0.5];

export interface ColoringState {
  /** The cell that the phrase names; 0 before any was chosen. */
  cell: number;
  /** Where in a gradient or art cell faces are seated: 0..1 across and down. */
  point: Point;
  /** The cell under the pointer in the tray; 0 none. */
  pointedCell: number;
  /** What is being tried on cells before it is kept. */
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
    | { kind: 'adopt'; file: string; bytes: Uint8Array; raster: Raster; finding: Finding }
    | { kind: 'reference'; reference: string }
    | { kind: 'relay'; sheet: string }
    | { kind: 'art room'; sheet: string }
    | { kind: 'motif'; motif: string }
    | { kind: 'variants'; naming?: string };
  recent: Hex[];
}

export const useColoring = perKit(
  create<ColoringState>(() => ({
    cell: 0,
    point: middle,
    pointedCell: 0,
    drafts: noDrafts,
    panel: null,
    recent: [],
  })),
);

export const closeColoring = (): void => useColoring.setState({ pointedCell: 0, drafts: noDrafts, panel: null });

export const closePanel = (): void => useColoring.setState({ panel: null, drafts: noDrafts });

/** A sheet as it would be. */
export function withDrafts(sheet: Sheet, drafts: Drafts): Sheet {
  if (!Object.keys(drafts).length) return sheet;
  return { ...sheet, cells: sheet.cells.map((c) => (drafts[c.id] ? { ...c, fill: drafts[c.id]! } : c)) };
}
