import type { Palette } from '@/core/ground/palettes/palette';
import { paletteFormats, type PaletteKind } from '@/core/ground/palettes/paletteFile';
import { colorsOfSheet } from '@/core/sheet/palette/sheetPalette';
import { addPalette, replaceByPalette } from '@/core/sheet/palette/usePalette';
import type { Going, Offer } from '@/core/sheet/palette/whereColorsGo';
import { findSheet } from '@/core/kit/kit';
import { safeName } from '@/core/ground/bytes/fileNames';
import { longWorker } from '@/workers/client';
import { announce } from '../told/announce';
import { closePanel, noDrafts, useColoring } from '../chosen/coloringState';
import { sheetInHand } from '../color/board';
import { dispatch } from '../kit/edits';
import { kitMoment, useEditor } from '../kit/editor';
import { download } from '../told/download';
import { notifyError } from '../told/notices';

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

/** Shows the models in the colors that their cells would take while it is decided. */
export function previewGoing(offers: readonly Offer[], going: Going | null): void {
  const fills = [...(going ?? [])].flatMap(([cell, i]) => {
    const offer = offers[i];
    return offer && offer.kind !== 'art' ? [[cell, offer] as const] : [];
  });
  useColoring.setState({ drafts: fills.length ? Object.fromEntries(fills) : noDrafts });
}

/** Adds the colors that the sheet does not have, or has its cells take them as `going` says. */
export function takePalette(file: string, palette: Palette, going: Going | null): void {
  const { state } = useEditor.getState();
  const { id } = sheetInHand();
  try {
    const edit = going ? replaceByPalette(state, id, palette.colors, going, file) : addPalette(state, id, palette.colors, file);
    if (dispatch(edit)) announce(going ? `Colors replaced by those of ${file}` : `Colors of ${file} added`);
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
