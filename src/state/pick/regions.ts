import type { Edit } from '@/core/kit/edit/edit';
import { findCell, type Region } from '@/core/kit/kit';
import { byColor, type RegionProposal } from '@/core/faces/regions/propose';
import {
  colorRegion,
  facesOfRegion,
  joinRegion,
  leaveRegion,
  lockRegion,
  makeRegion,
  makeRegions,
  mergeRegion,
  removeRegion,
  renameRegion,
  reorderRegion,
} from '@/core/faces/regions/regions';
import { meanColor } from '@/core/sheet/raster';
import { pickingWorker } from '@/workers/client';
import { usePictures } from '../chosen/pictures';
import { announce } from '../told/announce';
import { attempt } from '../color/board';
import { useColoring } from '../chosen/coloringState';
import { current, useEditor } from '../kit/editor';
import { notify } from '../told/notices';
import { angleFor, pickFaces } from './picking';
import { letPickGo, pickedFaces, usePick } from '../chosen/pickState';
import { count } from '@/core/ground/words';

const stateNow = () => useEditor.getState().state;
const modelNow = () => current()!.model.id;

/** The picked faces become a region, in the color of the phrase where `colored`. */
export function nameThePick(name: string, colored: boolean): void {
  const { cell } = useColoring.getState();
  const { count: picked, last } = usePick.getState();
  // Coloring lets the pick go: what was colored just now is still meant.
  const faces = picked ? pickedFaces() : last;
  if (!faces?.length) return notify('Pick the faces first.');
  if (attempt(() => makeRegion(stateNow(), modelNow(), faces, name, colored ? cell : 0).edit, `Region ${name} made`)) letPickGo();
}

/** The picked faces take a color and belong to the region that is called as its role: made, or joined. */
export function colorAndName(cell: number): void {
  const { model } = current()!;
  const found = findCell(stateNow().kit, cell)?.cell;
  const name = found?.role;
  const faces = pickedFaces();
  if (!faces.length) return notify('Pick the faces first.');
  if (!name) return notify('This color has no role yet, after which a region could be called. Double click it to give it one.');
  const region = model.regions.find((r) => r.name === name && r.cell === cell);
  const make = () =>
    region ? joinRegion(stateNow(), model.id, region.id, faces) : makeRegion(stateNow(), model.id, faces, name, cell).edit;
  if (!attempt(make, `${count(faces.length, 'face')} colored and named ${name}`)) return;
  useColoring.setState({ cell });
  letPickGo();
}

/** A region for each present color of the model in view. */
export function nameByColor(): void {
  const { model, cells } = current() ?? {};
  if (!model || !cells) return;
  const regions = byColor({ cell: cells }, stateNow().kit);
  attempt(() => makeRegions(stateNow(), model.id, regions), `${count(regions.length, 'region')} made`);
}

export const facesInRegion = (id: number): Uint32Array => facesOfRegion(stateNow().seats[modelNow()]!, id);

export function pickRegion(id: number): void {
  const { model } = current()!;
  pickFaces(facesOfRegion(stateNow().seats[model.id]!, id));
  announce(`${count(usePick.getState().count, 'face')} of ${model.regions.find((r) => r.id === id)?.name} picked`);
}

const onPick = (make: (faces: Uint32Array) => Edit | null, done: string): void => {
  if (!usePick.getState().count) notify('Pick the faces first.');
  else if (attempt(() => make(pickedFaces()), done)) letPickGo();
};

export const addPickTo = (id: number): void => onPick((faces) => joinRegion(stateNow(), modelNow(), id, faces), 'Added to the region');
export const takePickFrom = (id: number): void =>
  onPick((faces) => leaveRegion(stateNow(), modelNow(), id, faces), 'Taken from the region');
export const setRegionName = (id: number, name: string): boolean => attempt(() => renameRegion(stateNow(), modelNow(), id, name));
export const setRegionLock = (id: number, locked: boolean): boolean =>
  attempt(() => lockRegion(stateNow(), modelNow(), id, locked), locked ? 'Locked' : 'Unlocked');
export const dropRegion = (id: number): boolean => attempt(() => removeRegion(stateNow(), modelNow(), id), 'Region removed');
export const joinRegions = (from: number, into: number): boolean =>
  attempt(() => mergeRegion(stateNow(), modelNow(), from, into), 'Merged');
export const moveRegion = (id: number, by: -1 | 1): boolean => attempt(() => reorderRegion(stateNow(), modelNow(), id, by));

/** All faces of a region take a color: the given one, or its own again where some differ. */
export function colorRegionWith(region: Region, cell: number): void {
  if (region.locked) notify(`“${region.name}” is locked: nothing colors its faces.`);
  else if (!cell) notify('Choose a color in the tray first.');
  else attempt(() => colorRegion(stateNow(), modelNow(), region.id, cell), `${region.name} colored`);
}

export interface ShownProposal extends RegionProposal {
  /** An address of a picture of the model with each region in a color of its own. */
  picture: string;
}

/** Ways to divide the model in view, each with a picture; `cells`: the colors that regions take in turn, as `takeProposal` gives them. */
export async function proposalsInView(cells: readonly number[]): Promise<ShownProposal[]> {
  const { model, loaded, cells: own } = current() ?? {};
  if (!model || !loaded || !own) return [];
  const { kit } = stateNow();
  const colors = cells.flatMap((id) => {
    const cell = findCell(kit, id)?.cell;
    return cell ? [meanColor(cell.fill, usePictures.getState().rasters)] : [];
  });
  const list = await pickingWorker().proposeRegions(loaded.id, own, kit, angleFor('smooth'), angleFor('flat'), 132, colors);
  return list.map(({ png, ...proposal }) => ({
    ...proposal,
    picture: URL.createObjectURL(new Blob([png as Uint8Array<ArrayBuffer>], { type: 'image/png' })),
  }));
}

/** `cells`: the colors that the regions take, one after the other, and from the first again where there are more. */
export function takeProposal({ regions }: RegionProposal, cells: readonly number[] = []): void {
  const list = regions.map((r, i) => (cells.length ? { ...r, cell: cells[i % cells.length]! } : r));
  attempt(() => makeRegions(stateNow(), modelNow(), list), `${count(list.length, 'region')} made${cells.length ? ' and colored' : ''}`);
}
