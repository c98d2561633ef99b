import { create } from 'zustand';
import { wordsOf } from '@/core/ground/wordsOf';
import { count } from '@/core/ground/words';
import { mirroredCut } from '@/core/shapes/cut/mirroredCut';
import { linesOfCuts } from '@/core/shapes/cut/linesOfCuts';
import { mostRingCuts, planRingCuts, type RingCut, type RingPlaces } from '@/core/shapes/cut/ringCut';
import { nextCorner } from '@/core/shapes/mesh/adjacency';
import { triangleCount } from '@/core/shapes/mesh/polyMesh';
import { longWorker } from '@/workers/client';
import type { LoadedMesh } from '@/workers/residents';
import { useColoring } from '../chosen/coloringState';
import { usePhrase } from '../chosen/phrase';
import { countWords, usePick, type Spot } from '../chosen/pickState';
import { perKit } from '../chosen/session';
import { colorFaces } from '../color/coloring';
import { current, moment } from '../kit/editor';
import { refusedAsReadOnly } from '../kit/edits';
import { filesOf } from '../kit/meshes';
import { takeMesh } from '../kit/takeMesh';
import { pickFaces } from '../pick/picking';
import { symmetryInView } from '../pick/symmetries';
import { announce } from '../told/announce';
import { notify, notifyError } from '../told/notices';

/** What a click would cut. */
export interface LitCut {
  /** The mesh in which it lies. */
  mesh: string;
  cuts: RingCut[];
  /** Ends of segments on the model, 6 numbers for each. */
  lines: Float32Array;
  /** Faces that would be cut. */
  faces: number;
  /** Where a single cut lies between the borders of its ring, counted from the nearer one; `null` for several. */
  share: number | null;
}

export interface CutState {
  lit: LitCut | null;
  /** Why nothing can be cut here. */
  problem: string;
  isCutting: boolean;
  /** What the last cut cost. */
  cost: string;
}

export const useCut = perKit(create<CutState>(() => ({ lit: null, problem: '', isCutting: false, cost: '' })));

/** Shares from the middle within which the middle is meant. */
const middleWithin = 0.03;
/** As near to a border as pointing cuts. */
const nearest = 0.02;

/** Where along the edge of a corner a point of the face lies; its middle where no point is told. */
function shareAlong({ mesh, adjacency }: LoadedMesh, corner: number, { point }: Spot): number {
  if (!point) return 0.5;
  const [a, b] = [corner, nextCorner(adjacency, corner)].map((c) => mesh.cornerVertex[c]! * 3) as [number, number];
  let [along, square] = [0, 0];
  for (let k = 0; k < 3; k++) {
    const way = mesh.positions[b + k]! - mesh.positions[a + k]!;
    along += (point[k]! - mesh.positions[a + k]!) * way;
    square += way * way;
  }
  const share = square > 0 ? along / square : 0.5;
  return Math.abs(share - 0.5) < middleWithin ? 0.5 : Math.max(nearest, Math.min(1 - nearest, share));
}

function placesByPhrase(share: number): RingPlaces {
  const { cutWhere, cutTimes, cutMetres } = usePhrase.getState();
  if (cutWhere === 'even') return { kind: 'even', count: cutTimes };
  if (cutWhere === 'metres') return { kind: 'metres', metres: cutMetres, from: share <= 0.5 ? 'left' : 'right' };
  return { kind: 'share', share };
}

/** Once more, in even steps; or once less, down to a single cut where the pointer is. */
export function cutOftener(by: number): void {
  const { cutWhere, cutTimes } = usePhrase.getState();
  const times = Math.min(mostRingCuts, (cutWhere === 'even' ? cutTimes : 1) + by);
  usePhrase.setState(times > 1 ? { cutWhere: 'even', cutTimes: times } : { cutWhere: 'pointed' });
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
    const size = mesh.faceStart[face + 1]! - mesh.faceStart[face]!;
    const edge = mesh.faceStart[face]! + (spot.edge % size);
    const own: RingCut = { edge, places: placesByPhrase(shareAlong(loaded, edge, spot)) };
    const symmetry = mirror === 'nowhere' ? null : await symmetryInView();
    if (!isNow() || number !== asked) return;
    const twin = symmetry && mirroredCut(mesh, adjacency, symmetry, own);
    if (mirror === 'instead' && !twin) return useCut.setState({ lit: null, problem: 'This face has no twin across the plane.' });
    const cuts = [...(mirror === 'instead' ? [] : [own]), ...(twin ? [twin] : [])];
    const plan = planRingCuts(mesh, adjacency, cuts);
    const { places } = own;
    useCut.setState({
      problem: '',
      lit: {
        mesh: loaded.id,
        cuts,
        lines: linesOfCuts(mesh, adjacency, plan.cuts),
        faces: new Set(plan.cuts.map((c) => c.face)).size,
        share:
          places.kind === 'share' ? Math.min(places.share, 1 - places.share) : places.kind === 'even' && places.count === 1 ? 0.5 : null,
      },
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
    const made = await longWorker().cutRings(c.model.mesh, await filesOf(c.model), lit.cuts);
    if (!isNow()) return announce('Another model came into view before the cut was made; nothing was done.');
    const edit = await takeMesh(c.model, made, lit.cuts.length > 1 ? 'Cut along two rings' : 'Cut along a ring');
    if (!edit || current()?.loaded?.id !== made.address) return;
    const { mesh, adjacency } = made.loaded;
    const [triangles, vertices] = [triangleCount(mesh) - triangleCount(before.mesh), adjacency.pointCount - before.adjacency.pointCount];
    const cost = `${count(made.changed, 'face')} cut: ${count(triangles, 'triangle')} and ${count(vertices, 'vertex', 'vertices')} more.`;
    useCut.setState({ cost });
    if (cutThen === 'color' && cell) {
      colorFaces(made.bands, cell, { joins: edit });
      announce(`${count(made.bands.length, 'face')} colored`);
    } else {
      pickFaces(made.bands);
      announce(countWords());
    }
  } catch (error) {
    notifyError(error);
  } finally {
    useCut.setState({ isCutting: false });
  }
}

usePhrase.subscribe((now, before) => {
  if (now.act !== before.act) useCut.setState({ cost: '' });
  void refreshCut();
});
usePick.subscribe((now, before) => {
  if (now.face !== before.face || now.spot !== before.spot) void refreshCut();
});
