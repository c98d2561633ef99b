import { mirroredCut } from '@/core/shapes/cut/mirroredCut';
import type { Band, CutWish } from '@/core/shapes/cut/cutModel';
import type { RingCut, RingPlaces } from '@/core/shapes/cut/ringCut';
import { areaAt, likeAreas, type FlatArea } from '@/core/shapes/cut/likeAreas';
import { frameOn, isSameStamp, mirroredStamp } from '@/core/shapes/cut/stampFrame';
import { stampOutlines, type StampShape } from '@/core/shapes/cut/stampOutlines';
import { flatIn, pointIn, type Stamp } from '@/core/shapes/cut/stampCut';
import type { Flat, Point } from '@/core/shapes/cut/facePlaces';
import { nextCorner, type Adjacency } from '@/core/shapes/mesh/adjacency';
import type { Axis, Symmetry } from '@/core/shapes/pick/symmetry';
import type { LoadedMesh } from '@/workers/residents';
import { usePhrase, type StampState } from '../chosen/phrase';
import { usePick, type Spot } from '../chosen/pickState';
import { current } from '../kit/editor';
import { angleFor } from '../pick/picking';

/** What a click at a face and its edge would cut by the phrase, and by its plane of symmetry. Throws where the words fit nothing there. */
export function wishByPhrase(loaded: LoadedMesh, face: number, spot: Spot, symmetry: Symmetry | null): CutWish {
  switch (usePhrase.getState().cutAlong) {
    case 'ring':
      return alongRing(loaded, face, spot, symmetry);
    case 'border':
      return insideBorder(loaded, face, symmetry);
    case 'stamp':
      return byStamp(loaded, face, spot, symmetry);
    default:
      return byPlanes(loaded, face, spot, symmetry);
  }
}

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

/** The flat area at a face, and those with the same outline where the phrase wants them. */
function areasByPhrase({ mesh, adjacency }: LoadedMesh, face: number): FlatArea[] {
  const by = { angle: angleFor('flat'), cells: current()!.cells! };
  return usePhrase.getState().cutAlike ? likeAreas(mesh, adjacency, face, by) : [areaAt(mesh, adjacency, face, by)];
}

/** Lines inside the outline of flat areas, or of what is picked; its mirror image with it, or instead. */
function insideBorder(loaded: LoadedMesh, face: number, symmetry: Symmetry | null): CutWish {
  const { borderOf, borderLines, borderTakes, cutMetres, mirror } = usePhrase.getState();
  const { picked, count } = usePick.getState();
  const own = new Uint16Array(loaded.adjacency.part.length);
  if (borderOf === 'pick' && count) own.set(picked);
  // Each with an outline of its own, also where two of them touch.
  else areasByPhrase(loaded, face).forEach(({ faces }, i) => faces.forEach((f) => (own[f] = i + 1)));
  const all = mirror === 'instead' && symmetry ? new Uint16Array(own.length) : own.slice();
  // What is picked and its mirror image are one where they touch.
  const beyond = borderOf === 'pick' && count ? 0 : own.reduce((most, n) => Math.max(most, n), 0);
  own.forEach((n, f) => {
    const twin = n && symmetry ? symmetry.twin[f]! : -1;
    if (twin >= 0 && !all[twin]) all[twin] = mirror === 'instead' ? n : beyond + n;
  });
  return { kind: 'border', picked: all, width: { kind: 'metres', metres: cutMetres }, times: borderLines, takes: borderTakes };
}

function shapeOf({ shape, width, height, sides, drawn }: StampState): StampShape {
  if (shape === 'drawn' && drawn) return { kind: shape, width, height, outlines: drawn.outlines };
  return shape === 'round' ? { kind: shape, width, height, sides } : { kind: 'rectangle', width, height };
}

/** A stamp on the flat area at a face, at the same place of those like it, and mirrored. */
function byStamp(loaded: LoadedMesh, face: number, { point }: Spot, symmetry: Symmetry | null): CutWish {
  const { mesh, adjacency } = loaded;
  const { stamp, cutAlike } = usePhrase.getState();
  const outlines = stampOutlines(shapeOf(stamp), stamp, stamp.turn);
  const here = point ?? middleOf(mesh, face);
  const at = (first: number, origin: Point): Stamp => ({ face: first, frame: frameOn(adjacency, first, origin), outlines });
  if (stamp.at === 'point' && !cutAlike) return withMirrored([at(face, here)], symmetry);
  const areas = areasByPhrase(loaded, face);
  const off: Flat = stamp.at === 'middle' ? [0, 0] : flatIn(areas[0]!.frame)(here);
  return withMirrored(
    areas.map(({ faces, frame }, i) => at(i ? faces[0]! : face, pointIn(frame, off))),
    symmetry,
  );
}

function withMirrored(own: Stamp[], symmetry: Symmetry | null): CutWish {
  const images = symmetry ? own.flatMap((s) => mirroredStamp(symmetry, s) ?? []) : [];
  if (usePhrase.getState().mirror !== 'instead')
    return { kind: 'stamps', stamps: [...own, ...images.filter((s) => !own.some((o) => isSameStamp(o, s)))] };
  if (!images.length) throw new Error('This place has no twin across the plane.');
  return { kind: 'stamps', stamps: images };
}

/** The mean of a face's corners: where a stamp lies while no pointer says it. */
function middleOf({ positions, cornerVertex, faceStart }: LoadedMesh['mesh'], face: number): readonly [number, number, number] {
  const own = cornerVertex.subarray(faceStart[face]!, faceStart[face + 1]!);
  const mean = (k: number) => own.reduce((sum, v) => sum + positions[v * 3 + k]!, 0) / own.length;
  return [mean(0), mean(1), mean(2)];
}
