import { create } from 'zustand';
import { rgbFromHex } from '@/core/color/hex';
import type { Kit } from '@/core/kit/kit';
import { meanColor, rasterSheet } from '@/core/sheet/raster';
import { db } from '@/data/db';
import { coreWorker } from '@/workers/client';
import { noDrafts, type Drafts } from './coloringState';
import { useEditor } from './editor';

const size = 80;

/** Pictures of the models as they stand (addresses by model id), and the encoded size of each sheet. */
export const useThumbnails = create<{ pictures: Readonly<Record<string, string>>; sheetBytes: number }>(() => ({
  pictures: {},
  sheetBytes: 0,
}));

/** RGBA of each cell by its id, for tables of the graphics card and of the worker. */
export function cellTable(kit: Kit, drafts: Drafts = noDrafts): Uint8Array {
  const rows = Math.ceil(kit.nextCell / 256);
  const table = new Uint8Array(rows * 256 * 4);
  for (const sheet of kit.sheets)
    for (const cell of sheet.cells)
      table.set([...(drafts[cell.id] ? rgbFromHex(drafts[cell.id]!) : meanColor(cell.fill)), 255], cell.id * 4);
  return table;
}

const drawn = new Map<string, { cells: unknown; mesh: string; sheets: unknown }>();
let timer: ReturnType<typeof setTimeout> | undefined;
let isDrawing = false;

function redraw(): void {
  clearTimeout(timer);
  timer = setTimeout(() => void draw(), 200);
}

async function draw(): Promise<void> {
  if (isDrawing) return redraw();
  isDrawing = true;
  try {
    const { state, meshes, readOnly } = useEditor.getState();
    const { kit, seats } = state;
    const table = cellTable(kit);
    let isChanged = false;
    for (const model of kit.models) {
      if (!meshes[model.mesh]) continue;
      const now = { cells: seats[model.id], mesh: model.mesh, sheets: kit.sheets };
      const before = drawn.get(model.id);
      if (before && before.cells === now.cells && before.mesh === now.mesh && before.sheets === now.sheets) continue;
      const picture = await coreWorker().thumbnail({ mesh: model.mesh, cells: seats[model.id]!.cell }, table, size);
      drawn.set(model.id, now);
      isChanged = true;
      show(model.id, picture);
    }
    const encoded = await Promise.all(kit.sheets.map((s) => coreWorker().encodePng(rasterSheet(s))));
    useThumbnails.setState({ sheetBytes: encoded.reduce((sum, b) => sum + b.length, 0) });
    const shown = kit.models.filter((m) => meshes[m.mesh]).slice(0, 4);
    if (!isChanged || readOnly || !shown.length) return;
    // The home page shows the first models of a kit side by side.
    const portraits = shown.map((m) => ({ mesh: m.mesh, cells: seats[m.id]!.cell }));
    const picture = await coreWorker().groupPortrait(portraits, table, size);
    await db.kits.update(kit.id, { picture }).catch(() => 0);
  } finally {
    isDrawing = false;
  }
}

function show(model: string, png: Uint8Array): void {
  const before = useThumbnails.getState().pictures[model];
  const address = URL.createObjectURL(new Blob([png as Uint8Array<ArrayBuffer>], { type: 'image/png' }));
  useThumbnails.setState((s) => ({ pictures: { ...s.pictures, [model]: address } }));
  if (before) URL.revokeObjectURL(before);
}

/** Keeps thumbnails current while a kit is open; returns how to stop. */
export function watchThumbnails(): () => void {
  redraw();
  const stops = [useEditor.subscribe((now, before) => (now.state !== before.state || now.meshes !== before.meshes) && redraw())];
  return () => {
    stops.forEach((stop) => stop());
    clearTimeout(timer);
  };
}
