import type { Adjacency } from '../mesh/adjacency';
import { facesWhere } from '../mesh/facesWhere';
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
 * How many rings each face lies from the pick: growing n times takes what is at most n, shrinking n times leaves what is at most -n. Infinite where no ring gets to, minus
 * infinite where none is left behind.
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

/** Connected areas of unpicked faces that only picked ones border (no open edge, no end of the part) join: the holes of the pick. */
export function fillHoles(adjacency: Adjacency, picked: Flags): Flags {
  const out = picked.slice();
  for (const { faces, isEnclosed } of unpickedAreas(adjacency, picked)) if (isEnclosed) for (const f of faces) out[f] = 1;
  return out;
}

interface Area {
  faces: number[];
  area: number;
  /** Whether all of its border lies against picked faces, and there is one. */
  isEnclosed: boolean;
  /** Whether it touches a picked face at all. */
  isBeside: boolean;
}

/** Areas of unpicked faces, each connected over edges; the largest one of a part counts as its surroundings, never as enclosed. */
function unpickedAreas(adjacency: Adjacency, picked: Flags): Area[] {
  const { faceStart, neighbour, cornerFace, areas, part } = adjacency;
  const seen = picked.slice();
  const found: (Area & { part: number })[] = [];
  for (let first = 0; first < seen.length; first++) {
    if (seen[first]) continue;
    seen[first] = 1;
    const faces = [first];
    const one = { faces, area: 0, isEnclosed: true, isBeside: false, part: part[first]! };
    for (let i = 0; i < faces.length; i++) {
      const f = faces[i]!;
      one.area += areas[f]!;
      for (let c = faceStart[f]!; c < faceStart[f + 1]!; c++) {
        const d = neighbour[c]!;
        if (d < 0) one.isEnclosed = false;
        else if (picked[cornerFace[d]!]) one.isBeside = true;
        else if (!seen[cornerFace[d]!]) {
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
  /** Small faces that the picked area encloses, or that lie beside it on their own. */
  left: Uint32Array;
  /** Lone small faces that were taken although nothing around them is picked. */
  lone: Uint32Array;
}

/** A face or area counts as small below this share of the mean picked face's area, or of as few faces as this. */
const small = { share: 0.5, faces: 6 };

/** What a box, lasso or brush is likely to have left out, or taken, by accident. */
export function missedFaces(adjacency: Adjacency, picked: Flags): Missed {
  const { areas, faceStart, neighbour, cornerFace, part, partStart, partFaces } = adjacency;
  let count = 0;
  let sum = 0;
  for (let f = 0; f < picked.length; f++)
    if (picked[f]) {
      count++;
      sum += areas[f]!;
    }
  if (count < 2) return { left: new Uint32Array(0), lone: new Uint32Array(0) };
  const mean = sum / count;
  const left: number[] = [];
  for (const { faces, area, isEnclosed, isBeside } of unpickedAreas(adjacency, picked)) {
    const isSmall = faces.length <= small.faces && area / faces.length <= mean * small.share;
    if ((isEnclosed && area <= sum * small.share) || (isBeside && isSmall)) left.push(...faces);
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
  return { left: Uint32Array.from(left).sort(), lone: Uint32Array.from(lone) };
}
