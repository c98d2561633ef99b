import { create } from 'zustand';
import { takeTexels } from '@/core/faces/adopt/takeTexels';
import { safeName } from '@/core/ground/bytes/fileNames';
import type { Raster } from '@/core/ground/pictures/raster';
import { count } from '@/core/ground/words';
import { wordsOf } from '@/core/ground/wordsOf';
import { findCell } from '@/core/kit/kit';
import { isPainted } from '@/core/kit/pixels';
import { longWorker } from '@/workers/client';
import { onKitClosed, perKit } from '../chosen/session';
import { usePictures } from '../chosen/pictures';
import { download } from '../told/download';
import { announce } from '../told/announce';
import { notify, notifyError } from '../told/notices';
import { baseState, kitMoment, useEditor } from '../kit/editor';
import { dispatch } from '../kit/edits';
import { artInHand } from './artInHand';

/** A file on the disk that another program changes, and the art that it belongs to. */
export interface ArtFile {
  /** The cell of the art; 0: none is followed. */
  cell: number;
  name: string;
  /** It is looked at again and again; else it has to be opened again. */
  isFollowed: boolean;
  /** What it shows now, where that differs from the art, and how much: to be taken or left. */
  found: { raster: Raster; texels: number; colors: number } | null;
  problem: string;
}

const none: ArtFile = { cell: 0, name: '', isFollowed: false, found: null, problem: '' };
export const useArtFile = perKit(create<ArtFile>(() => none));

/** Milliseconds between one look at a file and the next. */
const between = 1000;
let stop: () => void = () => undefined;
onKitClosed(() => stop());

type Handle = Pick<FileSystemFileHandle, 'name' | 'getFile'>;
type Chooser = (options: object) => Promise<Handle[]>;
const chooser = (): Chooser | undefined => (window as unknown as { showOpenFilePicker?: Chooser }).showOpenFilePicker;
/** Whether the browser can look at a file again by itself. */
export const canFollowFiles = (): boolean => typeof window !== 'undefined' && chooser() !== undefined;

/** Lets the artist choose the file of the art in hand, and looks at it from then on whenever it changes. */
export async function followArtFile(): Promise<void> {
  const art = artInHand();
  if (!art) return;
  const isNow = kitMoment();
  try {
    const types = [{ description: 'A picture', accept: { 'image/png': ['.png'] } }];
    const [handle] = await chooser()!.call(window, { types, id: 'art' });
    if (!handle || !isNow()) return;
    stopFollowing();
    useArtFile.setState({ ...none, cell: art.cell.id, name: handle.name, isFollowed: true });
    follow(handle, art.cell.id);
    announce(`${handle.name} is followed: what changes in it is shown here first`);
  } catch (error) {
    if (!(error instanceof DOMException && error.name === 'AbortError')) notifyError(error);
  }
}

export function stopFollowing(): void {
  stop();
  useArtFile.setState(none);
}

function follow(handle: Handle, cell: number): void {
  let seen = -1;
  let isOver = false;
  let isBusy = false;
  const look = async () => {
    if (isBusy || isOver || document.hidden) return;
    isBusy = true;
    try {
      const file = await handle.getFile();
      if (isOver || file.lastModified === seen) return;
      seen = file.lastModified;
      await compare(file, cell, () => !isOver);
    } catch (error) {
      if (!isOver) useArtFile.setState({ problem: `${handle.name} cannot be read any more: ${wordsOf(error)}` });
    } finally {
      isBusy = false;
    }
  };
  const timer = setInterval(() => void look(), between);
  stop = () => {
    isOver = true;
    clearInterval(timer);
  };
  void look();
}

/** The file of the art in hand as it is now, where the browser cannot follow it: shown first, as what is followed. */
export async function openArtFile(file: File): Promise<void> {
  const art = artInHand();
  if (!art) return;
  const isNow = kitMoment();
  stopFollowing();
  useArtFile.setState({ ...none, cell: art.cell.id, name: file.name });
  await compare(file, art.cell.id, isNow);
}

async function compare(file: File, cell: number, isNow: () => boolean): Promise<void> {
  try {
    const raster = await longWorker().decodePicture(file.name, new Uint8Array(await file.arrayBuffer()));
    if (!isNow()) return;
    const { edit, texels, colors } = takeTexels(baseState(), cell, raster);
    useArtFile.setState({ problem: '', found: edit && { raster, texels, colors } });
    announce(edit ? `${file.name} differs in ${count(texels, 'texel')}` : `${file.name} shows what is here`);
  } catch (error) {
    if (isNow()) useArtFile.setState({ problem: wordsOf(error), found: null });
  }
}

/** The art shows what the file does: one undo. What was painted meanwhile elsewhere on it gives way, too. */
export function takeArtFile(): void {
  const { cell, found, name, isFollowed } = useArtFile.getState();
  if (!found) return;
  try {
    const { edit, texels } = takeTexels(baseState(), cell, found.raster);
    if (!edit || dispatch(edit)) announce(`${count(texels, 'texel')} taken from ${name}`);
    if (isFollowed) useArtFile.setState({ found: null });
    else stopFollowing();
  } catch (error) {
    notifyError(error);
  }
}

/** What the file shows is let be until it changes again. */
export function leaveArtFile(): void {
  if (useArtFile.getState().isFollowed) useArtFile.setState({ found: null, problem: '' });
  else stopFollowing();
}

/** The art in hand as a PNG, as it is shown; each texel a block of so many a side. */
export async function saveArt(times: number): Promise<void> {
  const art = artInHand();
  const fill = art?.cell.fill;
  if (!art || !isPainted(fill)) return;
  const raster = usePictures.getState().rasters.get(fill.picture);
  if (!raster) return notify('The art is still being prepared. Try again in a moment.');
  try {
    const { state, variant } = useEditor.getState();
    const name = findCell(state.kit, art.cell.id)?.cell.role || 'art';
    const shown = variant && state.kit.variants.find((v) => v.id === variant)?.name;
    const bytes = await longWorker().encodePng(raster, times, name);
    download(bytes, `${safeName([name, shown].filter(Boolean).join(' ').toLowerCase(), 'art')}.png`, 'image/png');
    announce(`${name} is saved: ${raster.width * times} × ${raster.height * times} texels`);
  } catch (error) {
    notifyError(error);
  }
}
