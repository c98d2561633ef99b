import type { Palette } from '@/core/palette/palette';
import { paletteFormats, type PaletteKind } from '@/core/palette/paletteFile';
import { colorsOfSheet } from '@/core/palette/sheetPalette';
import { addPalette, replaceByPalette } from '@/core/palette/usePalette';
import { colorsInOrder } from '@/core/sheet/order';
import { findSheet, solid } from '@/core/kit/kit';
import { safeName } from '@/core/io/fileNames';
import { longWorker } from '@/workers/client';
import { announce } from '../view/announce';
import { closePanel, noDrafts, useColoring } from './coloringState';
import { sheetInHand } from '../sheet/board';
import { dispatch } from '../kit/edits';
import { kitMoment, useEditor } from '../kit/editor';
import { download } from '../files/exporting';
import { notifyError } from '../view/notices';

/** Reads a palette and shows what can be done with it; the kit stays as it is until then. */
export async function openPalette(file: File): Promise<void> {
  const isNow = kitMoment();
  try {
    const palette = await longWorker().readPalette(file.name, new Uint8Array(await file.arrayBuffer()));
    if (!isNow()) return;
    useColoring.setState({ panel: { kind: 'palette', file: file.name, palette }, drafts: noDrafts });
  } catch (error) {
    notifyError(error);
  }
}

export type PaletteUse = 'add' | 'replace';

/** Shows the models in the palette's colors while it is decided. */
export function previewPalette(palette: Palette, use: PaletteUse): void {
  const cells = colorsInOrder(sheetInHand()).slice(0, palette.colors.length);
  useColoring.setState({
    drafts: use === 'add' ? noDrafts : Object.fromEntries(cells.map((c, i) => [c.id, solid(palette.colors[i]!.color)])),
  });
}

export function takePalette(file: string, palette: Palette, use: PaletteUse): void {
  const { state } = useEditor.getState();
  const { id } = sheetInHand();
  try {
    const edit = use === 'add' ? addPalette(state, id, palette.colors, file) : replaceByPalette(state, id, palette.colors, file);
    if (dispatch(edit)) announce(use === 'add' ? `Colors of ${file} added` : `Colors replaced by those of ${file}`);
    closePanel();
  } catch (error) {
    notifyError(error);
  }
}

export async function downloadPalette(sheetId: string, kind: PaletteKind): Promise<void> {
  const sheet = findSheet(useEditor.getState().state.kit, sheetId);
  const bytes = await longWorker().writePalette(kind, colorsOfSheet(sheet), sheet.name);
  download(bytes, `${safeName(sheet.name.toLowerCase(), 'palette')}.${paletteFormats[kind].extensions[0]}`, 'application/octet-stream');
}
