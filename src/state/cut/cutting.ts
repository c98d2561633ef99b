import { create } from 'zustand';
import { wordsOf } from '@/core/ground/wordsOf';
import { count } from '@/core/ground/words';
import { mostBorderLines } from '@/core/shapes/cut/borderInside';
import { proofingOf } from '@/core/judging/proof/finding';
import { pictureAsSharp } from '@/core/shapes/cut/pictureAsSharp';
import { linesOfCuts } from '@/core/shapes/cut/linesOfCuts';
import { planCut, type CutWish } from '@/core/shapes/cut/cutModel';
import { mostRingCuts } from '@/core/shapes/cut/ringCut';
import { mostInRow } from '@/core/shapes/cut/stampOutlines';
import { triangleCount } from '@/core/shapes/mesh/polyMesh';
import { longWorker } from '@/workers/client';
import { useColoring } from '../chosen/coloringState';
import { usePhrase } from '../chosen/phrase';
import { countWords, usePick } from '../chosen/pickState';
import { perKit } from '../chosen/session';
import { colorFaces } from '../color/coloring';
import { baseState, current, moment } from '../kit/editor';
import { refusedAsReadOnly } from '../kit/edits';
import { filesOf } from '../kit/meshes';
import { takeMesh } from '../kit/takeMesh';
import { pickFaces } from '../pick/picking';
import { symmetryInView } from '../pick/symmetries';
import { announce } from '../told/announce';
import { notify, notifyError } from '../told/notices';
import { wishByPhrase } from './wishByPhrase';

/** What a click would cut. */
export interface LitCut {
  /** The mesh in which it lies. */
  mesh: string;
  wish: CutWish;
  /** Ends of segments on the model, 6 numbers for each. */
  lines: Float32Array;
  /** Faces that would be cut. */
  faces: number;
  /** Where a single cut lies between the borders of its ring, counted from the nearer one; `null` for several. */
  share: number | null;
  /** Metres, of lines inside an outline for which the width that was said is too much. */
  heldBackTo: number | null;
}

const nameOf: Record<CutWish['kind'], string> = {
  rings: 'Cut along a ring',
  planes: 'Cut by a plane',
  border: 'Cut inside an outline',
  stamps: 'Stamped',
};

export interface CutState {
  lit: LitCut | null;
  /** Why nothing can be cut here. */
  problem: string;
  isCutting: boolean;
  /** What the last cut cost, and what a picture would. */
  cost: string;
  instead: string;
}

export const useCut = perKit(create<CutState>(() => ({ lit: null, problem: '', isCutting: false, cost: '', instead: '' })));

/** Once more: another cut in even steps, a second plane, a line further in, a stamp beside; or once less. */
export function cutOftener(by: number): void {
  const { cutWhere, cutTimes, cutAlong, borderLines, stamp } = usePhrase.getState();
  const within = (n: number, most: number) => Math.max(1, Math.min(most, n + by));
  if (cutAlong === 'border') return usePhrase.setState({ borderLines: within(borderLines, mostBorderLines) });
  if (cutAlong === 'stamp') return usePhrase.setState({ stamp: { ...stamp, columns: within(stamp.columns, mostInRow) } });
  if (cutAlong !== 'ring') return usePhrase.setState({ cutBand: by > 0 });
  const times = Math.min(mostRingCuts, (cutWhere === 'even' ? cutTimes : 1) + by);
  usePhrase.setState(times > 1 ? { cutWhere: 'even', cutTimes: times } : { cutWhere: 'pointed' });
}

/** How far a single cut lies from the nearer border of its ring; nothing for others. */
function shareOf(wish: CutWish): number | null {
  const places = wish.kind === 'rings' ? wish.cuts[0]!.places : null;
  if (places?.kind === 'even') return places.count === 1 ? 0.5 : null;
  return places?.kind === 'share' ? Math.min(places.share, 1 - places.share) : null;
}

let asked = 0;
/** Shows what a click at the face and edge under the pointer would cut, by the phrase. */
export async function refreshCut(): Promise<void> {
  const number = ++asked;
  const { act, mirror } = usePhrase.getState();
  const { face, spot } = usePick.getState();
  const loaded = current()?.loaded;
  if (act !== 'cut' || face < 0 || !loaded) return useCut.setState({ lit: null, problem: '' });
  const isNow = moment();
  try {
    const { mesh, adjacency } = loaded;
    const symmetry = mirror === 'nowhere' ? null : await symmetryInView();
    if (!isNow() || number !== asked) return;
    const wish = wishByPhrase(loaded, face, spot, symmetry);
    const { cuts, heldBackTo = null } = planCut(mesh, adjacency, wish);
    if (!cuts.length) throw new Error('Nothing lies there to be cut.');
    const faces = new Set(cuts.map((c) => c.face)).size;
    useCut.setState({
      problem: '',
      lit: { mesh: loaded.id, wish, lines: linesOfCuts(mesh, adjacency, cuts), faces, share: shareOf(wish), heldBackTo },
    });
  } catch (error) {
    if (isNow() && number === asked) useCut.setState({ lit: null, problem: wordsOf(error) });
  }
}

/** Cuts what is lit. What then lies between the cuts is picked, or takes the color of the phrase in the same undo. */
export async function cutAsLit(): Promise<void> {
  const { lit, problem, isCutting } = useCut.getState();
  const c = current();
  if (isCutting) return announce('The last cut is still being made.');
  if (!lit || !c?.loaded || c.loaded.id !== lit.mesh) {
    if (problem) notify(problem);
    return;
  }
  if (refusedAsReadOnly()) return;
  const { cutThen } = usePhrase.getState();
  const { cell } = useColoring.getState();
  const isNow = moment();
  useCut.setState({ isCutting: true });
  try {
    const before = c.loaded;
    const made = await longWorker().cut(c.model.mesh, await filesOf(c.model), lit.wish);
    if (!isNow()) return announce('Another model came into view before the cut was made; nothing was done.');
    const edit = await takeMesh(c.model, made, nameOf[lit.wish.kind]);
    if (!edit || current()?.loaded?.id !== made.address) return;
    const { mesh, adjacency } = made.loaded;
    const [triangles, vertices] = [triangleCount(mesh) - triangleCount(before.mesh), adjacency.pointCount - before.adjacency.pointCount];
    const cost = `${count(made.changed, 'face')} cut: ${count(triangles, 'triangle')} and ${count(vertices, 'vertex', 'vertices')} more.`;
    const { playSize } = proofingOf(baseState().kit);
    const texels = pictureAsSharp(before.mesh, playSize);
    useCut.setState({ cost, instead: `A picture as sharp at play size, ${count(playSize, 'pixel')}: ${count(texels, 'texel')}.` });
    if (cutThen === 'color' && cell) {
      colorFaces(made.between, cell, { joins: edit });
      announce(`${count(made.between.length, 'face')} colored`);
    } else {
      pickFaces(made.between);
      announce(countWords());
    }
  } catch (error) {
    notifyError(error);
  } finally {
    useCut.setState({ isCutting: false });
  }
}

usePhrase.subscribe((now, before) => {
  if (now.act !== before.act) useCut.setState({ cost: '', instead: '' });
  void refreshCut();
});
usePick.subscribe((now, before) => {
  if (now.face === before.face && now.spot === before.spot && now.picked === before.picked) return;
  const { cutAlong, borderOf } = usePhrase.getState();
  // Inside the outline of what is picked it is the same wherever one points.
  const isSame = cutAlong === 'border' && borderOf === 'pick' && now.count > 0 && now.picked === before.picked;
  if (!isSame || now.face < 0 || before.face < 0) void refreshCut();
});
