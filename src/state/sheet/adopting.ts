import { usesInAll } from '@/core/kit/colorings/usesOfCells';
import { contentAddress } from '@/core/ground/bytes/pack';
import { group, type Edit } from '@/core/kit/edit/edit';
import { newId, type Cell, type Fill, type Rect, type Reference, type Sheet } from '@/core/kit/kit';
import { adoptPicture } from '@/core/sheet/picture/adopt';
import type { Lines } from '@/core/sheet/picture/findLines';
import { cropRaster } from '@/core/sheet/picture/meanColor';
import { colorsOfFinding, recognise, type Finding } from '@/core/sheet/picture/readBlocks';
import { addPalette, replaceByPalette } from '@/core/sheet/palette/usePalette';
import type { Going } from '@/core/sheet/palette/whereColorsGo';
import { stemOf } from '@/core/ground/bytes/text';
import { freeName } from '@/core/kit/freeName';
import { keepBlob } from '@/data/blobs';
import { wordsOf } from '@/core/ground/wordsOf';
import { withStorageWords } from '@/data/db';
import { longWorker } from '@/workers/client';
import { announce } from '../told/announce';
import { boardSheet, selectCells, sheetInHand, useBoard } from '../color/board';
import { closePanel, noDrafts, useColoring, type ColoringState } from '../chosen/coloringState';
import { useDropper } from './drawing';
import { dispatch } from '../kit/edits';
import { baseState, kitMoment, useEditor } from '../kit/editor';
import { notify } from '../told/notices';
import { keepPicture, usePictures } from '../chosen/pictures';

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
    useColoring.setState({ panel: { kind: 'adopt', file: file.name, bytes, raster, finding }, drafts: noDrafts });
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

/** The cells of a sheet that something of the kit speaks of: faces, regions or slots. */
export function cellsInUse(sheet: Sheet): Cell[] {
  const state = baseState();
  const named = new Set(state.kit.models.flatMap((m) => [...m.regions, ...m.slots].map((one) => one.cell)));
  const uses = usesInAll(state);
  return sheet.cells.filter((c) => c.fill.kind !== 'spare' && (uses.has(c.id) || named.has(c.id)));
}

/** `going`: the picture takes the place of the sheet in hand, whose colors go to its blocks so. */
export async function adopt({ file, bytes, raster, finding }: AdoptPanel, frozen: boolean, going: Going | null): Promise<void> {
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
    const state = baseState();
    const sheet = sheetInHand();
    const names = state.kit.sheets.filter((s) => !(going && s.id === sheet.id)).map((s) => s.name);
    const name = freeName(stemOf(file), names);
    const made = adoptPicture(state, { finding, name, picture, art, frozen, ...(going && { replaces: sheet.id, going }) });
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
    if (dispatch(addPalette(useEditor.getState().state, sheetInHand().id, colors, file))) announce(`Colors of ${file} added`);
    closePanel();
  } catch (error) {
    notify(words(error), { isError: true });
  }
}

/** The cells of the sheet in hand take colors of a picture; its layout stays. */
export function takeColorsOf({ file, finding }: AdoptPanel, going: Going): void {
  try {
    const colors = finding.blocks.map(({ fill }) => ({ color: fill.kind === 'solid' ? fill.color : '' }));
    const edit = replaceByPalette(useEditor.getState().state, sheetInHand().id, colors, going, file);
    if (dispatch(edit)) announce(`Colors replaced by those of ${file}`);
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
