import { create } from 'zustand';
import { group, type Edit } from '@/core/kit/edit/edit';
import { fitted, layAt } from '@/core/islands/arrangeIslands';
import { byFileUvs } from '@/core/islands/fileUvs';
import type { LayingOut } from '@/core/islands/layOut';
import { facing, project } from '@/core/islands/project';
import { islandCells } from '@/core/islands/texels';
import { findCell, type Cell } from '@/core/kit/kit';
import type { Point3 } from '@/core/kit/laying/gradientRules';
import { count } from '@/core/ground/words';
import { proxy, startTask } from '@/workers/client';
import { dispatch, refusedAsReadOnly } from '../kit/edits';
import { moment, useEditor } from '../kit/editor';
import { onKitClosed } from '../chosen/session';
import { usePhrase } from '../chosen/phrase';
import { pickFaces } from '../pick/picking';
import { pickedFaces } from '../chosen/pickState';
import { announce } from '../told/announce';
import { notify, notifyError } from '../told/notices';
import { presentView } from '../chosen/viewState';
import { growForArt } from '../sheet/artRoom';
import { clearanceOf, islandProblems, islandsInView, useIslands, type IslandsInView } from './islands';
import { openFaces, packingFor } from './packing';
import { seamsEdit } from './seams';
import { keepStretch } from './stretch';

/** How faces are laid flat: as they are seen straight on, from where one looks now, or in a way that takes its time. */
export type Flattening = 'straight' | 'view' | Side | 'file' | LayingOut['kind'];

/** Along an axis: from which side faces are looked at. */
export type Side = 'front' | 'side' | 'above';

/** Islands are being laid out: how far it has come, and how to end it. */
export const useFlattening = create<{ busy: { share: number; cancel: () => void } | null }>(() => ({ busy: null }));
onKitClosed(() => useFlattening.getState().busy?.cancel());

/** Lays the picked faces flat on a cell, as large as it takes them. */
export function flattenPicked(how: Flattening, cellId: number): void {
  const view = islandsInView();
  if (!view || refusedAsReadOnly()) return;
  const cell = findCell(useEditor.getState().state.kit, cellId)?.cell;
  if (!cell || !islandCells(view.sheet).has(cellId)) return notify('Choose the art or the gradient first on which they are to lie.');
  const picked = pickedFaces();
  if (!picked.length) return notify('Pick the faces first.');
  // Islands of locked regions stay where they are, and the others keep clear of them.
  const faces = openFaces(view, picked);
  if (!faces.length) return notify('These faces are of a locked region.');
  if (how === 'file') layByFile(view, faces, cell);
  else if (how === 'straight' || how === 'view' || isSide(how)) layStraight(view, how, faces, cell);
  else void layOutFaces(view, layingOut(view, how), faces, cell);
}

/** Right and up, as one looks from a side. */
const axesOf: Record<Side, { right: Point3; up: Point3 }> = {
  front: { right: [1, 0, 0], up: [0, 1, 0] },
  side: { right: [0, 0, -1], up: [0, 1, 0] },
  above: { right: [1, 0, 0], up: [0, 0, -1] },
};

const isSide = (how: Flattening): how is Side => how in axesOf;

function layStraight(view: IslandsInView, how: 'straight' | 'view' | Side, faces: Uint32Array, cell: Cell): void {
  const { mesh, adjacency } = view.of.loaded!;
  const { right, up } =
    how === 'straight' ? facing(adjacency.normals, adjacency.areas, faces) : how === 'view' ? screenAxes() : axesOf[how];
  const texels = fitted(faces, mesh.faceStart, project(mesh, faces, right, up), cell, clearanceOf(view.sheet));
  layFlat(view, faces, cell, texels);
}

function layByFile(view: IslandsInView, faces: Uint32Array, cell: Cell): void {
  const found = byFileUvs(view.of.loaded!, faces, cell);
  if (!found) return notify('The file of this model has no UVs.');
  if (found.faces.length) layFlat(view, found.faces, cell, found.texels);
  if (!found.left.length) return;
  notify(`${count(found.left.length, 'face')} repeat the picture, which this cell does not: they stay as they were.`);
  pickFaces(found.left);
}

function layingOut(view: IslandsInView, kind: LayingOut['kind'], mayCut = false): LayingOut {
  switch (kind) {
    case 'seams':
      return { kind, seams: Uint32Array.from(view.of.model.seams), mayCut };
    case 'areas':
      return { kind, angle: usePhrase.getState().flat ?? view.of.loaded!.angles.flat };
    default:
      return { kind };
  }
}

/** Lays faces out in a worker of their own, which can be stopped. */
async function layOutFaces(view: IslandsInView, how: LayingOut, faces: Uint32Array, cell: Cell): Promise<void> {
  useFlattening.getState().busy?.cancel();
  const { model } = view.of;
  const isNow = moment();
  const packing = packingFor(view, faces);
  const onStep = (share: number) =>
    useFlattening.setState(({ busy }) => (busy?.cancel === task.cancel ? { busy: { ...busy, share } } : { busy }));
  const task = startTask((worker) => worker.layOut(model.mesh, faces, how, cell, packing, proxy(onStep)));
  useFlattening.setState({ busy: { share: 0, cancel: task.cancel } });
  try {
    const laid = await task.done;
    const now = laid && isNow() ? islandsInView() : null;
    const still = now && findCell(useEditor.getState().state.kit, cell.id)?.cell;
    if (!laid || !now || !still) return;
    if (laid.closed.length) {
      askForCut(now, laid.closed, faces, still);
      return;
    }
    // It was laid out for the cell as it was.
    if (JSON.stringify(still.rect) !== JSON.stringify(cell.rect))
      return notify('The cell changed meanwhile, so nothing was laid flat. Try again.');
    if (laid.factor < laid.density * (1 - spared) || !laid.factor) {
      sayNoRoom(now, how, faces, still);
      return;
    }
    layFlat(now, faces, still, laid.texels, laid.cuts);
    const words = [
      `${count(faces.length, 'face')} lie flat in ${count(laid.islands, 'island')}`,
      laid.cuts.length ? `${count(laid.cuts.length, 'edge')} cut besides your seams` : '',
      laid.flipped ? `${count(laid.flipped, 'triangle')} flipped` : '',
      laid.overlapping ? `${count(laid.overlapping, 'island')} lying on themselves` : '',
    ].filter(Boolean);
    notify(`${words.join('; ')}.`);
  } catch (error) {
    if (isNow()) notifyError(error);
  } finally {
    useFlattening.setState(({ busy }) => ({ busy: busy?.cancel === task.cancel ? null : busy }));
  }
}

function askForCut(view: IslandsInView, closed: Uint32Array, faces: Uint32Array, cell: Cell): void {
  const isNow = moment();
  notify(
    `${count(closed.length, 'face')} of these cannot lie flat without a cut: they are closed all around. Mark seams, or let edges be chosen for you.`,
    {
      action: {
        label: 'Cut and lay flat',
        run: () => {
          if (isNow()) void layOutFaces(view, layingOut(view, 'seams', true), faces, cell);
        },
      },
    },
  );
  pickFaces(closed);
}

/** By what share of its size an island may be smaller than what lies beside it without a word. */
const spared = 0.03;

/** Nothing that lies there is moved: where it leaves no room, the sheet may grow. */
function sayNoRoom({ sheet, of: { model } }: IslandsInView, how: LayingOut, faces: Uint32Array, cell: Cell): void {
  const isNow = moment();
  const grow = async () => {
    if (!isNow()) return;
    const added = await growForArt(sheet.id, cell);
    const view = isNow() && islandsInView();
    if (added && view && view.of.model.id === model.id) void layOutFaces(view, how, faces, added);
  };
  notify(
    `There is no room for them at the texel density of what lies on ${cell.role || 'the art'}. Let the sheet grow, or pack them smaller.`,
    {
      action: { label: 'Let it grow', run: () => void grow().catch(notifyError) },
    },
  );
}

function layFlat(view: IslandsInView, faces: Uint32Array, cell: Cell, texels: Float32Array, cuts: Uint32Array = new Uint32Array(0)): void {
  const { model, loaded } = view.of;
  const label = `Flatten onto ${cell.role || 'a cell'}`;
  keepStretch();
  try {
    const laid = layAt(useEditor.getState().state, model.id, loaded!.mesh.faceStart, faces, cell.id, texels, label);
    const edits = [cuts.length ? seamsEdit([...model.seams, ...cuts]) : null, laid].filter((e) => e !== null);
    if (dispatch(edits.length ? group(label, edits) : null))
      announce(`${count(faces.length, 'face')} lie flat on ${cell.role || 'the cell'}`);
  } catch (error) {
    notifyError(error);
  }
}

/** Lays all islands of art that has islands with common texels side by side, so that none has. */
export async function partIslands(): Promise<void> {
  const view = islandsInView();
  if (!view || refusedAsReadOnly()) return;
  const { model, loaded } = view.of;
  const { faceStart } = loaded!.mesh;
  const shared = new Set(islandProblems(view, useIslands.getState().mipLevels).overlapping);
  const isNow = moment();
  const { state } = useEditor.getState();
  try {
    const edits: Edit[] = [];
    for (const cell of view.sheet.cells) {
      const islands = view.islands
        .filter((i) => i.cell === cell.id)
        .map((i) => openFaces(view, i.faces))
        .filter((own) => own.length);
      if (!islands.some((faces) => shared.has(faces[0]!))) continue;
      const faces = Uint32Array.from(islands.flatMap((list) => [...list]));
      // As large as they find room, at the proportions that they have.
      const asked = { ...packingFor(view, faces), keepsDensity: false };
      const task = startTask((worker) => worker.packIslands(model.mesh, islands, view.texels, cell, asked));
      const packed = await task.done;
      // What was changed meanwhile would be put back to where it was.
      if (!packed || !isNow() || useEditor.getState().state !== state) return;
      edits.push(...[layAt(state, model.id, faceStart, faces, cell.id, packed.texels, 'Part islands')].filter((e) => e !== null));
    }
    if (edits.length) dispatch(group('Part islands', edits));
  } catch (error) {
    if (isNow()) notifyError(error);
  }
}

/** Right and up on the screen, in the mesh's space. */
function screenAxes(): { right: Point3; up: Point3 } {
  const m = presentView()?.matrix;
  const row = (k: number): Point3 => {
    const v = m ? [m[k]!, m[k + 4]!, m[k + 8]!] : k ? [0, 1, 0] : [1, 0, 0];
    const length = Math.hypot(...v) || 1;
    return v.map((x) => x / length) as unknown as Point3;
  };
  return { right: row(0), up: row(1) };
}
