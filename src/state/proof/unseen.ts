import { type ById, byId, withId } from '@/core/ground/byId';
import { create } from 'zustand';
import { lchFromHex } from '@/core/ground/color/hex';
import type { Cell, Sheet } from '@/core/kit/kit';
import { pickingWorker, proxy } from '@/workers/client';
import type { LoadedMesh } from '@/workers/residents';
import { colorFaces } from '../color/coloring';
import { current } from '../kit/editor';
import { perKit } from '../chosen/session';

export interface UnseenState {
  /** Faces that cannot be seen from any side, by mesh. */
  faces: ById<Uint32Array>;
  /** Meshes whose faces are being looked for, with the share that is done. */
  busy: ById<number>;
  /** Whether such faces stay behind at Hand-off. */
  leaveOut: boolean;
}

export const useUnseen = perKit(create<UnseenState>(() => ({ faces: byId(), busy: byId(), leaveOut: false })));

const running = new Map<string, Promise<Uint32Array | null>>();

/** Found when they are first asked for, apart from all other work; `null` where that was stopped. */
export function unseenFaces({ id }: LoadedMesh): Promise<Uint32Array | null> {
  const known = useUnseen.getState().faces[id];
  if (known) return Promise.resolve(known);
  let run = running.get(id);
  if (!run) running.set(id, (run = look(id).finally(() => running.delete(id))));
  return run;
}

async function look(id: string): Promise<Uint32Array | null> {
  const say = (share: number) => useUnseen.setState((s) => ({ busy: withId(s.busy, id, share) }));
  say(0);
  try {
    const faces = await pickingWorker().hiddenFaces(
      id,
      proxy((share: number) => {
        if (running.has(id)) say(share);
      }),
    );
    if (faces) useUnseen.setState((s) => ({ faces: withId(s.faces, id, faces) }));
    return faces;
  } finally {
    useUnseen.setState(({ busy }) => ({ busy: byId(Object.entries(busy).filter(([mesh]) => mesh !== id)) }));
  }
}

/** Stops looking. */
export function stopLooking(): void {
  for (const id of running.keys()) void pickingWorker().stopHiddenFaces(id);
}

export const trianglesOf = ({ mesh: { faceStart } }: LoadedMesh, faces: Uint32Array): number =>
  faces.reduce((n, f) => n + faceStart[f + 1]! - faceStart[f]! - 2, 0);

/** The darkest plain color of a sheet. */
export function darkestCell({ cells }: Sheet): Cell | null {
  const plain = cells.flatMap((cell) => (cell.fill.kind === 'solid' ? [{ cell, l: lchFromHex(cell.fill.color).l }] : []));
  return plain.reduce<{ cell: Cell; l: number } | null>((best, c) => (!best || c.l < best.l ? c : best), null)?.cell ?? null;
}

export function colorUnseenDark(faces: Uint32Array): void {
  const c = current();
  const cell = c && darkestCell(c.sheet);
  if (cell) colorFaces(faces, cell.id);
}
