import { create } from 'zustand';
import { lchFromHex } from '@/core/color/hex';
import type { Cell, Sheet } from '@/core/kit/kit';
import { coreWorker } from '@/workers/client';
import type { LoadedMesh } from '@/workers/residents';
import { colorFaces } from './coloring';
import { current } from './editor';
import { perKit } from './session';

/** Faces that cannot be seen from any side, by mesh, as rays have found them; and whether they leave. */
export const useUnseen = perKit(
  create<{ faces: Readonly<Record<string, Uint32Array>>; leaveOut: boolean }>(() => ({
    faces: {},
    leaveOut: false,
  })),
);

/** Found when they are first asked for. */
export async function unseenFaces({ id }: LoadedMesh): Promise<Uint32Array> {
  const known = useUnseen.getState().faces[id];
  if (known) return known;
  const faces = await coreWorker().hiddenFaces(id);
  useUnseen.setState((s) => ({ faces: { ...s.faces, [id]: faces } }));
  return faces;
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
