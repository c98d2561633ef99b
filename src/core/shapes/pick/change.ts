import { edgeLength, type Adjacency } from '../mesh/adjacency';
import { facesWhere } from '../mesh/facesWhere';
import type { PolyMesh } from '../mesh/polyMesh';
import { pointCorners } from './points';

/** Flags of picked faces, 1 for each; all functions here return new flags and leave theirs alone. */
export type Flags = Uint8Array;

/** One ring of faces more: all that share a point with a picked one. */
export function grow(adjacency: Adjacency, picked: Flags): Flags {
  return around(adjacency, picked, 1);
}

/** One ring of faces less: those that share a point with a face of their part that is not picked go. */
export function shrink(adjacency: Adjacency, picked: Flags): Flags {
  return around(adjacency, picked, 0);
}

/** Faces that share a point with a face of the given value take it. */
function around(adjacency: Adjacency, picked: Flags, value: 0 | 1): Flags {
  const { cornerPoint, cornerFace, faceStart } = adjacency;
  const { start, corners } = pointCorners(adjacency);
  const out = picked.slice();
  const done = new Uint8Array(adjacency.pointCount);
  for (let f = 0; f < picked.length; f++) {
    if (picked[f] !== value) continue;
    for (let c = faceStart[f]!; c < faceStart[f + 1]!; c++) {
      const p = cornerPoint[c]!;
      if (done[p]) continue;
      done[p] = 1;
      for (let i = start[p]!; i < start[p + 1]!; i++) out[cornerFace[corners[i]!]!] = value;
    }
  }
  return out;
}

/**
 * How many rings each face lies from the pick: growing n times takes what is at most n, shrinking n times
 * leaves what is at most -n. Infinite where no ring gets to, minus infinite where none is left behind.
 */
export function ringsFrom(adjacency: Adjacency, picked: Flags): Float32Array {
  const { cornerPoint, cornerFace, faceStart } = adjacency;
  const { start, corners } = pointCorners(adjacency);
  const rings = new Float32Array(picked.length);
  for (const value of [1, 0]) {
    for (let f = 0; f < picked.length; f++) if (picked[f] !== value) rings[f] = value ? Infinity : -Infinity;
    const isDone = new Uint8Array(adjacency.pointCount);
    let frontier: Uint32Array | number[] = facesWhere(picked.length, (f) => picked[f] === value);
    for (let n = 1; frontier.length; n++) {
      const next: number[] = [];
      for (const f of frontier)
        for (let c = faceStart[f]!; c < faceStart[f + 1]!; c++) {
          const p = cornerPoint[c]!;
          if (isDone[p]) continue;
          isDone[p] = 1;
          for (let i = start[p]!; i < start[p + 1]!; i++) {
            const g = cornerFace[corners[i]!]!;
            if (picked[g] === value || Number.isFinite(rings[g])) continue;
            rings[g] = value ? n : 1 - n;
            next.push(g);
          }
        }
      frontier = next;
    }
  }
  return rings;
}

/** On from the pick over every edge that folds by at most `angle` degrees. */
export function growToCreases(adjacency: Adjacency, picked: Flags, angle: number): Flags {
  const { faceStart, neighbour, cosine, cornerFace } = adjacency;
  const least = Math.cos((angle * Math.PI) / 180) - 1e-6;
  const out = picked.slice();
  const stack: number[] = [];
  for (let f = 0; f < out.length; f++) if (out[f]) stack.push(f);
  while (stack.length) {
    const f = stack.pop()!;
    for (let c = faceStart[f]!; c < faceStart[f + 1]!; c++) {
      const d = neighbour[c]!;
      if (d < 0 || cosine[c]! < least) continue;
      const g = cornerFace[d]!;
      if (out[g]) continue;
      out[g] = 1;
      stack.push(g);
    }
  }
  return out;
}

/** The other faces of the parts that have picked ones. */
export function invertInParts({ part, partStart }: Adjacency, picked: Flags): Flags {
  const has = new Uint8Array(partStart.length - 1);
  for (let f = 0; f < picked.length; f++) if (picked[f]) has[part[f]!] = 1;
  return picked.map((p, f) => (has[part[f]!] ? 1 - p : 0));
}

/**
 * Connected areas of unpicked faces that only picked ones border (no open edge, no end of the part) join: the
 * holes of the pick.
 */
export function fillHoles(adjacency: Adjacency, picked: Flags): Flags {
  const out = picked.slice();
  for (const { faces, isEnclosed } of unpickedAreas(adjacency, picked)) if (isEnclosed) for (const f of faces) out[f] = 1;
  return out;
}

interface Area {
  faces: number[];
  area: number;
  /** Lengths of its border in all, and of that against picked faces; 0 where no positions were given. */
  border: number;
  against: number;
  /** Whether all of its border lies against picked faces, and there is one. */
  isEnclosed: boolean;
  /** Whether it touches a picked face at all. */
  isBeside: boolean;
}

/**
 * Areas of unpicked faces, each connected over edges; the largest one of a part counts as its surroundings,
 * never as enclosed.
 */
function unpickedAreas(adjacency: Adjacency, picked: Flags, mesh?: PolyMesh): Area[] {
  const { faceStart, neighbour, cornerFace, areas, part } = adjacency;
  const seen = picked.slice();
  const found: (Area & { part: number })[] = [];
  for (let first = 0; first < seen.length; first++) {
    if (seen[first]) continue;
    seen[first] = 1;
    const faces = [first];
    const one = { faces, area: 0, border: 0, against: 0, isEnclosed: true, isBeside: false, part: part[first]! };
    for (let i = 0; i < faces.length; i++) {
      const f = faces[i]!;
      one.area += areas[f]!;
      for (let c = faceStart[f]!; c < faceStart[f + 1]!; c++) {
        const d = neighbour[c]!;
        if (d < 0 || picked[cornerFace[d]!]) {
          const length = mesh ? edgeLength(mesh, adjacency, c) : 0;
          one.border += length;
          if (d < 0) one.isEnclosed = false;
          else {
            one.isBeside = true;
            one.against += length;
          }
        } else if (!seen[cornerFace[d]!]) {
          seen[cornerFace[d]!] = 1;
          faces.push(cornerFace[d]!);
        }
      }
    }
    one.isEnclosed &&= one.isBeside;
    found.push(one);
  }
  const largest = new Map<number, Area>();
  for (const a of found) if (a.area > (largest.get(a.part)?.area ?? -1)) largest.set(a.part, a);
  const pickedArea = new Float64Array(adjacency.partStart.length - 1);
  for (let f = 0; f < picked.length; f++) if (picked[f]) pickedArea[part[f]!]! += areas[f]!;
  return found.map((a) => ({ ...a, isEnclosed: a.isEnclosed && (largest.get(a.part) !== a || a.area < pickedArea[a.part]!) }));
}

export interface Missed {
  /** Gaps of the pick, each with its faces: few and small beside it, and bordered mostly by it. */
  left: Uint32Array[];
  /** Lone small faces that were taken although nothing around them is picked. */
  lone: Uint32Array;
}

/**
 * What counts as a gap of the pick: at most so many faces, so large a share of the picked area, so much of
 * the border against picked faces, and no more area than such a border can hold flat (a circle holds 1/4π of
 * its square): what holds more bulges out, like a foot or a forearm, and was left out on purpose. `share`: of
 * the mean picked face, for faces that the pick does not enclose and for lone ones.
 */
const small = { share: 0.5, faces: 6, area: 0.15, against: 0.5, flat: 0.085 };

/** What a box, lasso or brush is likely to have left out, or taken, by accident. */
export function missedFaces(mesh: PolyMesh, adjacency: Adjacency, picked: Flags): Missed {
  const { areas, faceStart, neighbour, cornerFace, part, partStart, partFaces } = adjacency;
  let count = 0;
  let sum = 0;
  for (let f = 0; f < picked.length; f++)
    if (picked[f]) {
      count++;
      sum += areas[f]!;
    }
  if (count < 2) return { left: [], lone: new Uint32Array(0) };
  const mean = sum / count;
  const left: Uint32Array[] = [];
  for (const { faces, area, border, against, isEnclosed, isBeside } of unpickedAreas(adjacency, picked, mesh)) {
    if (!isBeside || faces.length > small.faces || area > sum * small.area) continue;
    if (against < border * small.against || area > small.flat * border ** 2) continue;
    if (isEnclosed || area / faces.length <= mean * small.share) left.push(Uint32Array.from(faces).sort());
  }
  const lone: number[] = [];
  for (let f = 0; f < picked.length; f++) {
    if (!picked[f] || areas[f]! > mean * small.share) continue;
    let hasFriend = false;
    for (let c = faceStart[f]!; c < faceStart[f + 1]!; c++) {
      const d = neighbour[c]!;
      if (d >= 0 && picked[cornerFace[d]!]) hasFriend = true;
    }
    const p = part[f]!;
    const isWholePart =
      partStart[p + 1]! - partStart[p]! <= 1 || partFaces.subarray(partStart[p]!, partStart[p + 1]!).every((g) => picked[g]);
    if (!hasFriend && !isWholePart) lone.push(f);
  }
  return { left, lone: Uint32Array.from(lone) };
}
