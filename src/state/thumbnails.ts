import { create } from 'zustand';
import { rgbFromHex } from '@/core/color/hex';
import type { Kit } from '@/core/kit/kit';
import { meanColor, rasterSheet } from '@/core/sheet/raster';
import { db } from '@/data/db';
import { coreWorker } from '@/workers/client';
import { useColoring } from './coloringState';
import { useEditor } from './editor';

const size = 80;

/** Pictures of the models as they stand (data addresses by model id), and the encoded size of each sheet. */
export const useThumbnails = create<{ pictures: Readonly<Record<string, string>>; sheetBytes: number }>(() => ({
  pictures: {},
  sheetBytes: 0,
}));

/** RGBA of each cell by its id, for tables of the graphics card and of the worker. */
export function cellTable(kit: Kit, draft: { cell: number; color: string } | null = null): Uint8Array {
  const rows = Math.ceil(kit.nextCell / 256);
  const table = new Uint8Array(rows * 256 * 4);
  for (const sheet of kit.sheets)
    for (const cell of sheet.cells)
      table.set([...(draft?.cell === cell.id ? rgbFromHex(draft.color) : meanColor(cell.fill)), 255], cell.id * 4);
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
      const { data, width, height } = await coreWorker().thumbnail(model.mesh, seats[model.id]!.cell, table, size);
      const picture = toPicture(data, width, height);
      drawn.set(model.id, now);
      isChanged = true;
      useThumbnails.setState((s) => ({ pictures: { ...s.pictures, [model.id]: picture } }));
    }
    const encoded = await Promise.all(kit.sheets.map((s) => coreWorker().encodePng(rasterSheet(s))));
    useThumbnails.setState({ sheetBytes: encoded.reduce((sum, b) => sum + b.length, 0) });
    if (isChanged && !readOnly && kit.id) await keepKitPicture(kit);
  } finally {
    isDrawing = false;
  }
}

function toPicture(data: Uint8Array, width: number, height: number): string {
  const canvas = document.createElement('canvas');
  canvas.width = width;
  canvas.height = height;
  canvas.getContext('2d')!.putImageData(new ImageData(new Uint8ClampedArray(data), width, height), 0, 0);
  return canvas.toDataURL();
}

/** The home page shows the first models of a kit side by side. */
async function keepKitPicture(kit: Kit): Promise<void> {
  const { pictures } = useThumbnails.getState();
  const shown = kit.models.filter((m) => pictures[m.id]).slice(0, 4);
  if (!shown.length) return;
  const canvas = document.createElement('canvas');
  canvas.width = 4 * size;
  canvas.height = size;
  const context = canvas.getContext('2d')!;
  for (const [i, model] of shown.entries()) {
    const image = new Image();
    image.src = pictures[model.id]!;
    await image.decode();
    context.drawImage(image, (i + (4 - shown.length) / 2) * size, 0);
  }
  const blob = await new Promise<Blob | null>((resolve) => canvas.toBlob(resolve));
  if (blob) await db.kits.update(kit.id, { picture: new Uint8Array(await blob.arrayBuffer()) }).catch(() => 0);
}

/** Keeps thumbnails current while a kit is open; returns how to stop. */
export function watchThumbnails(): () => void {
  redraw();
  const stops = [
    useEditor.subscribe((now, before) => (now.state !== before.state || now.meshes !== before.meshes) && redraw()),
    useColoring.subscribe((now, before) => now.draft !== before.draft && now.draft === null && redraw()),
  ];
  return () => {
    stops.forEach((stop) => stop());
    clearTimeout(timer);
  };
}
