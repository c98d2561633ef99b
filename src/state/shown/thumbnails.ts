import { type ById, byId, withId } from '@/core/ground/byId';
import { create } from 'zustand';
import { isTextured, type Kit, type Model } from '@/core/kit/kit';
import { meanColor } from '@/core/sheet/raster';
import { db, type PortraitRow } from '@/data/db';
import { pickingWorker } from '@/workers/client';
import type { Paint, Portrait } from '@/workers/portraits';
import { noDrafts, type Drafts } from '../chosen/coloringState';
import { useEditor, type EditorState } from '../kit/editor';
import { pictureFiles, usePictures } from '../chosen/pictures';
import { onKitClosed } from '../chosen/session';
import { isCounting, tallyNow } from './tally';

const size = 80;
/** On the home page, for each of the first models. */
const homeSize = 240;
/** Larger sheets are not kept a second time for the home page. */
const mostSheetBytes = 65_536;

/** Pictures of the models as they stand (addresses by model id), and the encoded size of each sheet. */
export const useThumbnails = create<{ pictures: ById<string>; sheetBytes: number }>(() => ({
  pictures: byId(),
  sheetBytes: 0,
}));

/**
 * Color of each cell by its id, 4 bytes, for tables of the graphics card and of the worker. Alpha: 255, or
 * for a textured cell 1 + the number of its sheet; `isSampled`: for all of them.
 */
export function cellTable(kit: Kit, drafts: Drafts = noDrafts, isSampled = false): Uint8Array {
  const rows = Math.ceil(kit.nextCell / 256);
  const table = new Uint8Array(rows * 256 * 4);
  const { rasters } = usePictures.getState();
  kit.sheets.forEach((sheet, s) => {
    for (const cell of sheet.cells) {
      const fill = drafts[cell.id] ?? cell.fill;
      table.set([...meanColor(fill, rasters), isSampled || isTextured(fill) ? 1 + Math.min(s, 250) : 255], cell.id * 4);
    }
  });
  return table;
}

const drawn = new Map<string, { cells: unknown; mesh: string; sheets: unknown }>();
let timer: ReturnType<typeof setTimeout> | undefined;
let encodedSheets: Kit['sheets'] | null = null;
let isDrawing = false;
let firstSheet: Uint8Array | undefined;

onKitClosed(() => {
  for (const url of Object.values(useThumbnails.getState().pictures)) URL.revokeObjectURL(url);
  useThumbnails.setState({ pictures: byId(), sheetBytes: 0 });
  drawn.clear();
  encodedSheets = null;
  firstSheet = undefined;
});

function redraw(): void {
  clearTimeout(timer);
  timer = setTimeout(() => void draw(), 200);
}

async function draw(): Promise<void> {
  if (isDrawing) return redraw();
  isDrawing = true;
  try {
    // What is drawn is the kit as it stands now, also where it changes meanwhile.
    const then = useEditor.getState();
    const { state, meshes, readOnly, modelId, variant } = then;
    const { kit, seats } = state;
    const table = cellTable(kit);
    const paint = await paintOf(kit);
    let isChanged = false;
    for (const model of [...kit.models].sort((a, b) => Number(b.id === modelId) - Number(a.id === modelId))) {
      // Models that are still to be prepared come first: pictures can wait.
      if (useEditor.getState().preparing > 0) return redraw();
      if (!meshes[model.mesh]) continue;
      const now = { cells: seats[model.id], mesh: model.mesh, sheets: kit.sheets };
      const before = drawn.get(model.id);
      if (before && before.cells === now.cells && before.mesh === now.mesh && before.sheets === now.sheets) continue;
      const picture = await pickingWorker().thumbnail(portraitOf(model, then), table, size, paint);
      if (useEditor.getState().state.kit.id !== kit.id) return;
      drawn.set(model.id, now);
      isChanged = true;
      show(model.id, picture);
    }
    if (kit.sheets !== encodedSheets) {
      const { settled } = usePictures.getState();
      const encoded = await pickingWorker().encodeSheets(kit.sheets, await pictureFiles(kit));
      // Art that was painted on meanwhile is encoded next.
      encodedSheets = usePictures.getState().settled === settled ? kit.sheets : null;
      const first = encoded[0]?.bytes;
      firstSheet = first && first.length <= mostSheetBytes ? first : undefined;
      useThumbnails.setState({ sheetBytes: encoded.reduce((sum, e) => sum + e.bytes.length, 0) });
    }
    const shown = kit.models.filter((m) => meshes[m.mesh]).slice(0, 4);
    if (!isChanged || readOnly || !shown.length || variant) return;
    // The home page shows the first models of a kit side by side, in the default coloring.
    const picture = await pickingWorker().groupPortrait(
      shown.map((m) => portraitOf(m, then)),
      table,
      homeSize,
      paint,
    );
    if (useEditor.getState().state.kit.id !== kit.id) return;
    await db.portraits.put({ kit: kit.id, bytes: picture, ...homeFigures(useEditor.getState()) }).catch(() => 0);
  } finally {
    isDrawing = false;
  }
}

/** What the home page says of the open kit beside its picture; the tally only once all of it is known. */
function homeFigures(editor: EditorState): Partial<PortraitRow> {
  if (isCounting(editor)) return {};
  const { drawCalls, whenColored, colors, uncolored } = tallyNow(editor);
  // A sheet that changed since has other bytes; none are told then.
  const isEncoded = encodedSheets === editor.state.kit.sheets;
  const sheetBytes = isEncoded ? useThumbnails.getState().sheetBytes : 0;
  return { tally: { drawCalls, whenColored, colors, uncolored, sheetBytes }, ...(isEncoded && firstSheet && { sheet: firstSheet }) };
}

/** The home page says how the kit stands when it is left, also where its picture was not drawn again in time. */
function keepFigures(editor: EditorState): void {
  const { state, base, status, readOnly } = editor;
  const { tally, ...figures } = homeFigures(base ? { ...editor, state: base } : editor);
  if (status !== 'ready' || readOnly || !tally) return;
  const kit = state.kit.id;
  void db
    .transaction('rw', db.portraits, async () => {
      const before = await db.portraits.get(kit);
      // While a variant was shown, the sheets of the default coloring were not encoded.
      const sheetBytes = tally.sheetBytes || (before?.tally?.sheetBytes ?? 0);
      return db.portraits.put({ ...before, ...figures, tally: { ...tally, sheetBytes }, kit });
    })
    .catch(() => 0);
}

/** A model as it stands, for the worker to draw. */
export function portraitOf(model: Model, { state }: Pick<EditorState, 'state'>): Portrait {
  const { cell, at } = state.seats[model.id]!;
  return { mesh: model.mesh, cells: cell, ...(at && { at }) };
}

/** What gradients and art are drawn from; `null` where no cell of the kit differs from place to place. */
export async function paintOf(kit: Kit): Promise<Paint | null> {
  if (!kit.sheets.some((s) => s.cells.some((c) => isTextured(c.fill)))) return null;
  return { kit: { ...kit, models: [], references: [] }, pictures: await pictureFiles(kit) };
}

function show(model: string, png: Uint8Array): void {
  const before = useThumbnails.getState().pictures[model];
  const address = URL.createObjectURL(new Blob([png as Uint8Array<ArrayBuffer>], { type: 'image/png' }));
  useThumbnails.setState((s) => ({ pictures: withId(s.pictures, model, address) }));
  if (before) URL.revokeObjectURL(before);
}

/** Keeps thumbnails current while a kit is open; returns how to stop. */
export function watchThumbnails(): () => void {
  redraw();
  const stops = [
    usePictures.subscribe((now, before) => {
      if (now.settled === before.settled) return;
      drawn.clear();
      encodedSheets = null;
      redraw();
    }),
    useEditor.subscribe((now, before) => {
      // Closed before its views are gone: what it was is kept.
      if (now.state.kit.id !== before.state.kit.id) keepFigures(before);
      if (now.state !== before.state || now.meshes !== before.meshes) redraw();
    }),
  ];
  return () => {
    stops.forEach((stop) => stop());
    clearTimeout(timer);
    keepFigures(useEditor.getState());
  };
}
