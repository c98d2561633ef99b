import { create } from 'zustand';
import { wordsOf } from '@/core/ground/wordsOf';
import { count } from '@/core/ground/words';
import { mirroredCut } from '@/core/shapes/cut/mirroredCut';
import { linesOfCuts } from '@/core/shapes/cut/linesOfCuts';
import { planCut, type Band, type CutWish } from '@/core/shapes/cut/cutModel';
import { mostRingCuts, type RingCut, type RingPlaces } from '@/core/shapes/cut/ringCut';
import type { Axis, Symmetry } from '@/core/shapes/pick/symmetry';
import { nextCorner, type Adjacency } from '@/core/shapes/mesh/adjacency';
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
  wish: CutWish;
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

/** Once more, in even steps, or a second plane; or once less, down to a single cut where the pointer is. */
export function cutOftener(by: number): void {
  const { cutWhere, cutTimes, cutAlong } = usePhrase.getState();
  if (cutAlong !== 'ring') return usePhrase.setState({ cutBand: by > 0 });
  const times = Math.min(mostRingCuts, (cutWhere === 'even' ? cutTimes : 1) + by);
  usePhrase.setState(times > 1 ? { cutWhere: 'even', cutTimes: times } : { cutWhere: 'pointed' });
}

/** Along the ring through the edge under the pointer, and along its twin by the phrase. */
function alongRing(loaded: LoadedMesh, face: number, spot: Spot, symmetry: Symmetry | null): CutWish {
  const { mesh, adjacency } = loaded;
  const size = mesh.faceStart[face + 1]! - mesh.faceStart[face]!;
  const edge = mesh.faceStart[face]! + (spot.edge % size);
  const own: RingCut = { edge, places: placesByPhrase(shareAlong(loaded, edge, spot)) };
  const twin = symmetry && mirroredCut(mesh, adjacency, symmetry, own);
  const isInstead = usePhrase.getState().mirror === 'instead';
  if (isInstead && !twin) throw new Error('This face has no twin across the plane.');
  return { kind: 'rings', cuts: [...(isInstead ? [] : [own]), ...(twin ? [twin] : [])] };
}

/** By one plane at the pointer, or two around it. */
function byPlanes({ adjacency, bounds }: LoadedMesh, face: number, { point }: Spot, symmetry: Symmetry | null): CutWish {
  const { cutAlong, cutReach, cutBand, cutMetres, mirror } = usePhrase.getState();
  const axis = cutAlong as Axis;
  const k = ['x', 'y', 'z'].indexOf(axis);
  const here = point?.[k] ?? (bounds.min[k]! + bounds.max[k]!) / 2;
  const { part } = adjacency;
  const { picked, count: pickedCount } = usePick.getState();
  const within =
    cutReach === 'part' ? flagsOfPart(adjacency, part[face]!) : cutReach === 'pick' && pickedCount ? picked.slice() : undefined;
  const own: Band = cutBand ? { from: here - cutMetres / 2, to: here + cutMetres / 2 } : { from: here, to: Infinity };
  // Across any other axis the mirror image of a plane is itself.
  const image = symmetry?.axis === axis ? { from: 2 * symmetry.offset - own.to, to: 2 * symmetry.offset - own.from } : null;
  if (within && symmetry) for (let f = 0; f < within.length; f++) if (within[f] && symmetry.twin[f]! >= 0) within[symmetry.twin[f]!] = 1;
  const bands = [...(image && mirror === 'instead' ? [] : [own]), ...(image ? [image] : [])];
  return { kind: 'planes', axis, bands, ...(within && { within }) };
}

function flagsOfPart({ partStart, partFaces, part }: Adjacency, of: number): Uint8Array {
  const out = new Uint8Array(part.length);
  for (let i = partStart[of]!; i < partStart[of + 1]!; i++) out[partFaces[i]!] = 1;
  return out;
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
  const { act, mirror, cutAlong } = usePhrase.getState();
  const { face, spot } = usePick.getState();
  const loaded = current()?.loaded;
  if (act !== 'cut' || face < 0 || !loaded) return useCut.setState({ lit: null, problem: '' });
  const isNow = moment();
  try {
    const { mesh, adjacency } = loaded;
    const symmetry = mirror === 'nowhere' ? null : await symmetryInView();
    if (!isNow() || number !== asked) return;
    const wish = cutAlong === 'ring' ? alongRing(loaded, face, spot, symmetry) : byPlanes(loaded, face, spot, symmetry);
    const { cuts } = planCut(mesh, adjacency, wish);
    if (!cuts.length) throw new Error('Nothing lies there to be cut.');
    const faces = new Set(cuts.map((c) => c.face)).size;
    useCut.setState({
      problem: '',
      lit: { mesh: loaded.id, wish, lines: linesOfCuts(mesh, adjacency, cuts), faces, share: shareOf(wish) },
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
    const edit = await takeMesh(c.model, made, lit.wish.kind === 'rings' ? 'Cut along a ring' : 'Cut by a plane');
    if (!edit || current()?.loaded?.id !== made.address) return;
    const { mesh, adjacency } = made.loaded;
    const [triangles, vertices] = [triangleCount(mesh) - triangleCount(before.mesh), adjacency.pointCount - before.adjacency.pointCount];
    const cost = `${count(made.changed, 'face')} cut: ${count(triangles, 'triangle')} and ${count(vertices, 'vertex', 'vertices')} more.`;
    useCut.setState({ cost });
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
  if (now.act !== before.act) useCut.setState({ cost: '' });
  void refreshCut();
});
usePick.subscribe((now, before) => {
  if (now.face !== before.face || now.spot !== before.spot) void refreshCut();
});
