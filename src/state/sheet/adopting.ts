import { usesOfCells } from '@/core/budget/tally';
import { contentAddress } from '@/core/io/pack';
import { group, type Edit } from '@/core/edit/edit';
import { newId, type Cell, type Fill, type Rect, type Reference, type Sheet } from '@/core/kit/kit';
import { adoptPicture } from '@/core/picture/adopt';
import type { Lines } from '@/core/picture/findLines';
import { cropRaster } from '@/core/picture/meanColor';
import { colorsOfFinding, recognise, type Finding } from '@/core/picture/readBlocks';
import { addPalette } from '@/core/palette/usePalette';
import { stemOf } from '@/core/io/text';
import { freeName } from '@/core/kit/freeName';
import { keepBlob } from '@/data/blobs';
import { wordsOf } from '@/core/wordsOf';
import { withStorageWords } from '@/data/db';
import { longWorker } from '@/workers/client';
import { announce } from '../view/announce';
import { boardSheet, selectCells, useBoard } from './board';
import { closePanel, noDrafts, useColoring, type ColoringState } from '../color/coloringState';
import { useDropper } from '../color/drawing';
import { dispatch } from '../kit/edits';
import { kitMoment, useEditor } from '../kit/editor';
import { notify } from '../view/notices';
import { keepPicture, usePictures } from './pictures';

export const isPicture = (name: string): boolean => /\.(png|jpe?g|webp)$/i.test(name);

type AdoptPanel = Extract<ColoringState['panel'], { kind: 'adopt' }>;

const words = (error: unknown): string => wordsOf(withStorageWords(error, 'the picture was not kept'));

/** Looks at a picture that may be a palette, and shows what was found; the kit stays as it is until it is decided. */
export async function openPalettePicture(file: File): Promise<void> {
  const isNow = kitMoment();
  try {
    const bytes = new Uint8Array(await file.arrayBuffer());
    const { raster, finding } = await longWorker().openPalettePicture(file.name, bytes);
    if (!isNow()) return;
    if (finding.kind === 'pixels') {
      const colors = colorsOfFinding(finding).map((color) => ({ color }));
      useColoring.setState({
        panel: { kind: 'palette', file: file.name, palette: { kind: 'pixels', colors, notes: [] } },
        drafts: noDrafts,
      });
    } else useColoring.setState({ panel: { kind: 'adopt', file: file.name, bytes, raster, finding }, drafts: noDrafts });
  } catch (error) {
    notify(words(error), { isError: true });
  }
}

/** Reads the open picture again between other lines. */
export async function moveLines(lines: Lines): Promise<void> {
  const finding = await longWorker().readBlocks(lines);
  useColoring.setState(({ panel }) => (panel?.kind === 'adopt' ? { panel: { ...panel, finding } } : {}));
}

/** Nothing is a palette here: the whole picture is one piece of art. */
export function takeWholePicture(): void {
  useColoring.setState(({ panel }) => {
    if (panel?.kind !== 'adopt') return {};
    const { width, height } = panel.raster;
    const finding: Finding = {
      kind: 'picture',
      width,
      height,
      lines: { xs: [0, width], ys: [0, height] },
      blocks: [{ rect: { x: 0, y: 0, w: width, h: height }, fill: { kind: 'art' } }],
    };
    return { panel: { ...panel, finding } };
  });
}

/**
 * Whether a new sheet may take the place of the one on the board: nothing sits on it, and it is no picture
 * that someone chose.
 */
export function mayReplace(sheet: Sheet): boolean {
  const uses = usesOfCells(useEditor.getState().state);
  return !sheet.frozen && sheet.cells.every((c) => !uses.has(c.id));
}

export async function adopt({ file, bytes, raster, finding }: AdoptPanel, frozen: boolean, replace: boolean): Promise<void> {
  const isNow = kitMoment();
  try {
    const picture = await contentAddress(bytes);
    const needed = new Map<string, Uint8Array>();
    if (frozen) needed.set(picture, bytes);
    const art = new Map<number, string>();
    for (const [i, block] of finding.blocks.entries()) {
      if (block.fill.kind !== 'art') continue;
      const isWhole = block.rect.w === raster.width && block.rect.h === raster.height;
      const crop = cropRaster(raster, block.rect);
      const png = isWhole ? bytes : await longWorker().encodePng(crop);
      const address = await keepBlob(png);
      keepPicture(address, png, crop);
      art.set(i, address);
    }
    if (frozen) {
      await keepBlob(bytes);
      keepPicture(picture, bytes, raster);
    }
    if (!isNow()) return;
    const { kit } = useEditor.getState().state;
    const sheet = boardSheet();
    const names = kit.sheets.filter((s) => !(replace && s.id === sheet.id)).map((s) => s.name);
    const name = freeName(stemOf(file), names);
    const made = adoptPicture(kit, { finding, name, picture, art, frozen, ...(replace && { replaces: sheet.id }) });
    if (!dispatch(made.edit)) return;
    closePanel();
    useBoard.setState({ sheetId: made.sheet.id, selected: [] });
    announce(`${name} is a sheet of the kit`);
  } catch (error) {
    notify(words(error), { isError: true });
  }
}

/** Points out a cell on a frozen picture: flat, a gradient, or art, by what lies there. */
export async function makeCellAt(rect: Rect): Promise<void> {
  const sheet = boardSheet();
  const isNow = kitMoment();
  const raster = sheet.frozen && usePictures.getState().rasters.get(sheet.frozen.picture);
  if (!raster) return;
  try {
    const crop = cropRaster(raster, rect);
    const { blocks } = recognise(crop);
    let fill: Fill;
    if (blocks.length === 1 && blocks[0]!.fill.kind !== 'art') fill = blocks[0]!.fill as Fill;
    else {
      const png = await longWorker().encodePng(crop);
      const picture = await keepBlob(png);
      keepPicture(picture, png, crop);
      fill = { kind: 'art', picture };
    }
    const { kit } = useEditor.getState().state;
    const now = kit.sheets.find((s) => s.id === sheet.id);
    if (!isNow() || !now) return;
    const cell: Cell = { id: kit.nextCell, rect, role: '', fill };
    const edits: Edit[] = [
      { kind: 'put', list: 'cells', of: sheet.id, index: now.cells.length, before: null, after: cell },
      { kind: 'set', of: 'kit', before: { nextCell: kit.nextCell }, after: { nextCell: kit.nextCell + 1 } },
    ];
    if (dispatch(group('Make a cell', edits))) selectCells([cell.id]);
  } catch (error) {
    notify(words(error), { isError: true });
  }
}

/** Only the colors of a picture, added to the sheet on the board. */
export function addColorsOf({ file, finding }: AdoptPanel): void {
  try {
    const colors = colorsOfFinding(finding).map((color) => ({ color }));
    if (dispatch(addPalette(useEditor.getState().state, boardSheet().id, colors, file))) announce(`Colors of ${file} added`);
    closePanel();
  } catch (error) {
    notify(words(error), { isError: true });
  }
}

/** Keeps pictures with the kit, to take colors from. */
export async function addReferences(files: readonly File[]): Promise<void> {
  for (const file of files) {
    try {
      const bytes = new Uint8Array(await file.arrayBuffer());
      await keepReference(file.name, bytes);
    } catch (error) {
      notify(words(error), { isError: true });
    }
  }
}

export async function keepReference(name: string, bytes: Uint8Array): Promise<void> {
  const isNow = kitMoment();
  const raster = await longWorker().decodePicture(name, bytes);
  const picture = await keepBlob(bytes);
  if (!isNow()) return;
  const { kit } = useEditor.getState().state;
  keepPicture(picture, bytes, raster);
  const after: Reference = {
    id: newId('p'),
    name: freeName(
      stemOf(name),
      kit.references.map((r) => r.name),
    ),
    picture,
  };
  if (!dispatch({ kind: 'put', list: 'references', of: 'kit', index: kit.references.length, before: null, after })) return;
  if (useDropper.getState().floating !== null) useDropper.setState({ floating: after.id });
  else useColoring.setState({ panel: { kind: 'reference', reference: after.id }, drafts: noDrafts });
  announce(`${after.name} is kept with the kit`);
}

export function renameReference(id: string, name: string): void {
  const { references } = useEditor.getState().state.kit;
  const index = references.findIndex((r) => r.id === id);
  const before = references[index];
  if (before)
    dispatch(group('Rename a reference', [{ kind: 'put', list: 'references', of: 'kit', index, before, after: { ...before, name } }]));
}

export function removeReference(id: string): void {
  const { references } = useEditor.getState().state.kit;
  const index = references.findIndex((r) => r.id === id);
  if (index < 0) return;
  if (dispatch({ kind: 'put', list: 'references', of: 'kit', index, before: references[index]!, after: null })) closePanel();
}
