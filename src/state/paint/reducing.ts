import { create } from 'zustand';
import { reducedArt, reducedToArt, type ModelOnPicture } from '@/core/faces/adopt/takeReduced';
import { byId } from '@/core/ground/byId';
import { contentAddress } from '@/core/ground/bytes/pack';
import { stemOf } from '@/core/ground/bytes/text';
import type { Hex } from '@/core/ground/color/hex';
import type { Pictures } from '@/core/ground/pictures/raster';
import { count } from '@/core/ground/words';
import { wordsOf } from '@/core/ground/wordsOf';
import { stateOfVariant } from '@/core/kit/colorings/shown';
import { picturesOfSheet } from '@/core/kit/contents';
import { applyEdit } from '@/core/kit/edit/editKinds';
import type { Edit } from '@/core/kit/edit/edit';
import { copySeats, findCell, findModel, findSheet, type Cell, type KitState, type Sheet } from '@/core/kit/kit';
import { copyAllPixels, isPainted } from '@/core/kit/pixels';
import { facesWhere } from '@/core/shapes/mesh/facesWhere';
import { withPainted } from '@/core/sheet/painted';
import type { Checkering } from '@/core/sheet/reduce/checkering';
import type { Reduced } from '@/core/sheet/reduce/reduce';
import type { Sampling } from '@/core/sheet/reduce/resample';
import { readBlob } from '@/data/blobs';
import { longWorker } from '@/workers/client';
import type { PictureFile } from '@/workers/pictures';
import { perKit } from '../chosen/session';
import { usePaint } from '../chosen/paint';
import { usePictures } from '../chosen/pictures';
import { baseState, current, moment, useEditor } from '../kit/editor';
import { dispatch } from '../kit/edits';
import { filesOf } from '../kit/meshes';
import { announce } from '../told/announce';
import { notify } from '../told/notices';

/** A way to bring a picture to few colors and few texels. */
export interface Way {
  colors: number;
  /** Which colors it may take: any, those of the sheet, or those of the kit's list. */
  from: 'any' | 'sheet' | 'list';
  /** Texels from left to right; as many down as keep its shape. */
  across: number;
  sampling: Sampling;
  checkering: Checkering;
  /** Each texel is a block of so many a side on the sheet. */
  times: number;
}

/** What would come of a way. */
export interface Outcome {
  way: Way;
  reduced: Reduced;
  /** The kit as it would be, and its pictures. */
  state: KitState;
  rasters: Pictures;
  /** The sheet that would leave. */
  sheet: { width: number; height: number; bytes: number };
}

/** The picture that is reduced, and what comes to lie on what becomes of it. */
export interface Source {
  name: string;
  width: number;
  height: number;
  /** Of what leaves today: the picture that it came with, or the sheet. */
  bytes: number;
  file: PictureFile;
  under: Uint8Array;
  to: { models: ModelOnPicture[] } | { cell: number };
  /** Faces that repeat the picture beyond its edges, and stay as they came. */
  left: number;
  /** Texels a metre, where the art is as large as the picture; 0 where that is not known. */
  density: number;
}

export interface ReducingState {
  isOpen: boolean;
  source: Source | null;
  problem: string;
  ways: readonly Way[];
  /** By the place of the way: what came of it, what is wrong with it, or `null` while that is worked out. */
  outcomes: readonly (Outcome | { problem: string } | null)[];
}

const closed: ReducingState = { isOpen: false, source: null, problem: '', ways: [], outcomes: [] };
export const useReducing = perKit(create<ReducingState>(() => closed));
/** Ways side by side, at most. */
export const mostWays = 4;

export const closeReducing = (): void => useReducing.setState(closed);

/** The art on which faces of the model in view lie: the cell with most of them; `null` where none do. */
function artCell(): Cell | null {
  const now = current();
  if (!now) return null;
  const counts = new Map<number, number>();
  for (const id of now.cells) counts.set(id, (counts.get(id) ?? 0) + 1);
  const arts = now.sheet.cells.filter((c) => c.fill.kind === 'art' && counts.has(c.id));
  const meant = arts.find((c) => c.id === usePaint.getState().artCell);
  return meant ?? arts.sort((a, b) => counts.get(b.id)! - counts.get(a.id)!)[0] ?? null;
}

/** Whether the model in view has a picture that can be reduced: art, or one with which it came. */
export function hasPicture(): 'art' | 'came' | null {
  const now = current();
  if (!now?.loaded) return null;
  if (artCell()) return 'art';
  const { uvSets, slots } = now.loaded.mesh;
  return now.cells.every((c) => c === 0) && uvSets.length > 0 && slots.some((s) => s.picture) ? 'came' : null;
}

/** Opens the picture of the model in view, or another one for its art, to be looked at in four ways. */
export async function openReducing(picture?: File): Promise<void> {
  const isNow = moment();
  useReducing.setState({ ...closed, isOpen: true });
  try {
    const source = artCell() ? await artAsSource(artCell()!, picture) : await pictureAsSource();
    if (!isNow() || !useReducing.getState().isOpen) return;
    if (!source) {
      closeReducing();
      return notify('This model has no picture that could be brought to few colors.');
    }
    const ways = usualWays(source);
    useReducing.setState({ source, ways, outcomes: ways.map(() => null) });
    ways.forEach((_, i) => void workOut(i));
  } catch (error) {
    if (isNow() && useReducing.getState().isOpen) useReducing.setState({ problem: wordsOf(error) });
  }
}

async function pictureAsSource(): Promise<Source | null> {
  const { model } = current()!;
  const bare = useEditor.getState().state.kit.models.filter((m) => m.id === model.id || (m.sheet === model.sheet && isBare(m.id)));
  const ordered = [model, ...bare.filter((m) => m.id !== model.id)];
  const files = await Promise.all(ordered.map(async (m) => ({ id: m.id, mesh: m.mesh, files: await filesOf(m) })));
  const came = await longWorker().pictureOfModels(files);
  if (!came) return null;
  const { meshes } = useEditor.getState();
  const models = came.models.flatMap(({ id, ...on }): ModelOnPicture[] => {
    const own = meshes[findModel(baseState().kit, id).mesh];
    return own ? [{ id, ...on, faceStart: own.mesh.faceStart }] : [];
  });
  if (!models.length) throw new Error('All of its faces repeat the picture beyond its edges; on a sheet with other cells they cannot.');
  const { width, height, under, png, name, left } = came;
  const file = files[0]!.files.find((f) => f.name.toLowerCase().endsWith(name.toLowerCase()));
  return {
    ...{ name: stemOf(name), width, height, under, left, to: { models } },
    bytes: file?.bytes.length ?? png.length,
    file: { address: await contentAddress(png), bytes: png },
    density: densityOf(under, models),
  };
}

/** A model none of whose faces is colored. */
const isBare = (id: string): boolean => baseState().seats[id]!.cell.every((c) => c === 0);

function densityOf(under: Uint8Array, models: readonly Pick<ModelOnPicture, 'id' | 'faces'>[]): number {
  const { kit } = baseState();
  const { meshes } = useEditor.getState();
  const [first] = models;
  const areas = first && meshes[findModel(kit, first.id).mesh]?.adjacency.areas;
  const metres = areas ? first.faces.reduce((sum, f) => sum + areas[f]!, 0) : 0;
  return metres > 0 ? Math.sqrt(under.reduce((n, v) => n + v, 0) / metres) : 0;
}

async function artAsSource(cell: Cell, picture?: File): Promise<Source> {
  const { sheet } = current()!;
  const { picture: address } = cell.fill as { picture: string };
  const own = usePictures.getState().rasters.get(address);
  if (!own) throw new Error('Its art is still being prepared. Try again in a moment.');
  let file: PictureFile = isPainted(cell.fill) ? { address, raster: own } : { address, bytes: await readBlob(address) };
  let { width, height } = own;
  if (picture) {
    const bytes = new Uint8Array(await picture.arrayBuffer());
    ({ width, height } = await longWorker().decodePicture(picture.name, bytes));
    file = { address: await contentAddress(bytes), bytes };
  }
  const { kit, seats } = useEditor.getState().state;
  const showing = kit.models.filter((m) => seats[m.id]!.cell.includes(cell.id));
  const under = await longWorker().texelsShown(
    cell.id,
    { width, height },
    showing.map((m) => ({ mesh: m.mesh, seats: seats[m.id]! })),
  );
  const now = current()!;
  const faces = facesWhere(now.cells.length, (f) => now.cells[f] === cell.id);
  return {
    ...{ name: picture ? stemOf(picture.name) : cell.role || 'art', width, height, file, under, left: 0, to: { cell: cell.id } },
    bytes: await bytesOf(baseState(), sheet.id, usePictures.getState().rasters),
    density: densityOf(under, [{ id: now.model.id, faces }]),
  };
}

/** Powers of two that are no more than the picture has, from 8. */
export function sizesFor({ width }: Pick<Source, 'width'>): number[] {
  const out = [];
  for (let across = 8; across < width; across *= 2) out.push(across);
  return [...out, width];
}

/** How often each texel of a way may be enlarged: up to the size that the picture has. */
export function enlargements({ width }: Pick<Source, 'width'>, { across }: Pick<Way, 'across'>): number[] {
  const out = [1];
  for (let times = 2; across * times <= width && times <= 64; times++) if (times % 2 === 0 || across * times === width) out.push(times);
  return out;
}

/** Four to begin with: small and plain, larger, in the colors that are there, and in few colors that feign more. */
function usualWays(source: Source): Way[] {
  const sizes = sizesFor(source);
  const wanted = 64;
  const near = sizes.reduce((best, s) => (Math.abs(Math.log2(s / wanted)) < Math.abs(Math.log2(best / wanted)) ? s : best));
  const larger = sizes[Math.min(sizes.length - 1, sizes.indexOf(near) + 1)]!;
  const usual: Way = { colors: 16, from: 'any', across: near, sampling: 'area', checkering: 'none', times: 1 };
  return [
    usual,
    { ...usual, colors: 32, across: larger },
    { ...usual, from: 'sheet', sampling: 'majority' },
    { ...usual, colors: 8, across: larger, checkering: 'ordered' },
  ];
}

export function changeWay(i: number, change: Partial<Way>): void {
  const { ways, outcomes, source } = useReducing.getState();
  const before = ways[i];
  if (!before || !source) return;
  const wanted = { ...before, ...change };
  // No larger than the picture is.
  const after = { ...wanted, times: enlargements(source, wanted).includes(wanted.times) ? wanted.times : 1 };
  useReducing.setState({ ways: ways.map((w, k) => (k === i ? after : w)), outcomes: outcomes.map((o, k) => (k === i ? null : o)) });
  void workOut(i);
}

/** The colors that a way may take; `undefined`: any. */
function colorsFor({ from }: Way, sheet: Sheet): Hex[] | undefined {
  if (from === 'any') return undefined;
  if (from === 'list') return baseState().kit.allowed?.colors ?? [];
  return sheet.cells.flatMap(({ fill }) => (fill.kind === 'solid' && fill.alpha === undefined ? [fill.color] : []));
}

const sheetOf = ({ to }: Source): Sheet => {
  const { kit } = baseState();
  return 'cell' in to ? findCell(kit, to.cell)!.sheet : findSheet(kit, findModel(kit, to.models[0]!.id).sheet);
};

const editOf = (state: KitState, { to, name }: Source, reduced: Reduced, { times }: Way): { edit: Edit; cell: number } =>
  'cell' in to ? reducedArt(state, to.cell, reduced, times) : reducedToArt(state, reduced, name, to.models, times);

/** What comes of a way, by the worker; of one that is changed meanwhile nothing is kept. */
async function workOut(i: number): Promise<void> {
  const { source, ways } = useReducing.getState();
  const way = ways[i];
  if (!source || !way) return;
  const isWanted = () => useReducing.getState().source === source && useReducing.getState().ways[i] === way;
  const keep = (outcome: ReducingState['outcomes'][number]) => {
    if (isWanted()) useReducing.setState(({ outcomes }) => ({ outcomes: outcomes.map((o, k) => (k === i ? outcome : o)) }));
  };
  try {
    const height = Math.max(1, Math.round((source.height * way.across) / source.width));
    const among = colorsFor(way, sheetOf(source));
    const { colors, sampling, checkering } = way;
    const reduced = await longWorker().reduce(source.file, source.under, {
      ...{ width: way.across, height, colors, sampling, checkering },
      ...(among && { among }),
    });
    if (!isWanted()) return;
    const state = asItWouldBe(source, reduced, way);
    const rasters = withPainted(usePictures.getState().decoded, state);
    const sheet = findSheet(state.kit, sheetOf(source).id);
    const bytes = await bytesOf(state, sheet.id, rasters);
    keep({ way, reduced, state, rasters, sheet: { width: sheet.width, height: sheet.height, bytes } });
  } catch (error) {
    keep({ problem: wordsOf(error) });
  }
}

/** The kit after a way would be taken, with arrays of its own. */
function asItWouldBe(source: Source, reduced: Reduced, way: Way): KitState {
  const state = baseState();
  const { edit } = editOf(state, source, reduced, way);
  const seats = byId(Object.entries(state.seats).map(([id, own]) => [id, copySeats(own)]));
  return applyEdit({ ...state, seats, ...(state.pixels && { pixels: copyAllPixels(state.pixels) }) }, edit);
}

/** Bytes of a sheet of a kit as it leaves. */
async function bytesOf({ kit }: KitState, id: string, rasters: Pictures): Promise<number> {
  const sheet = findSheet(kit, id);
  const files = picturesOfSheet(sheet).map(async (address): Promise<PictureFile> => ({ address, bytes: await readBlob(address) }));
  const painted = sheet.cells.flatMap(({ fill }): PictureFile[] =>
    isPainted(fill) ? [{ address: fill.picture, raster: rasters.get(fill.picture)! }] : [],
  );
  const [encoded] = await longWorker().encodeSheets([sheet], [...(await Promise.all(files)), ...painted]);
  return encoded!.bytes.length;
}

/** The outcome as the coloring in hand would show it. */
export const shownOutcome = ({ state, rasters }: Outcome): { state: KitState; rasters: Pictures } => ({
  state: stateOfVariant(state, useEditor.getState().variant),
  rasters,
});

/** One way is taken: one undo. */
export function takeWay(i: number): void {
  const { source, outcomes, ways } = useReducing.getState();
  const outcome = outcomes[i];
  if (!source || !outcome || 'problem' in outcome || outcome.way !== ways[i]) return;
  const { edit } = editOf(baseState(), source, outcome.reduced, outcome.way);
  if (!dispatch(edit)) return;
  closeReducing();
  const { colors, width, height } = outcome.reduced;
  announce(`${source.name} has ${count(colors.length, 'color')} and ${width} × ${height} texels now`);
}

// What was worked out for a kit that changes is of another one.
useEditor.subscribe((now, before) => {
  const isOther = (now.base ?? now.state) !== (before.base ?? before.state) || now.modelId !== before.modelId;
  if (isOther && useReducing.getState().isOpen) closeReducing();
});
