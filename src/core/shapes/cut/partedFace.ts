import { convexPieces } from './convexPieces';
import { isInside, isSamePlace, isWithin, signedArea, type FaceCut, type FacePlace, type Flat, type InsidePoint } from './facePlaces';

/** A corner of a piece. */
export interface Spot {
  place: FacePlace;
  vertex: number;
  /** In the face's plane, counter-clockwise. */
  at: Flat;
}

/** What is parted further: an outline, and outlines of what was cut out of it, clockwise. */
interface Part {
  outline: Spot[];
  holes: Spot[][];
}

/**
 * The pieces of a face, by its outline and cuts in their order; what has holes after all of them is parted into convex pieces. A
 * cut parts what lies before it along the outline from what lies behind. Cuts that join neighbours or cross earlier ones are
 * none. Throws as `convexPieces` does.
 */
export function partedFace(outline: Spot[], cuts: readonly FaceCut[], spotOf: (point: InsidePoint) => Spot): Spot[][] {
  let parts: Part[] = [{ outline, holes: [] }];
  for (const { from, to, via = [] } of cuts) {
    const way = via.map(spotOf);
    if (from === to && isInside(from)) parts = withLoop(parts, [spotOf(from), ...way]);
    else parts = withBridge(parts, from, to, way) ?? withPath(parts, from, to, way);
  }
  return parts.flatMap(({ outline: own, holes }) => {
    const spots = new Map([own, ...holes].flat().map((s) => [s.vertex, s]));
    // An outline that touches itself is no face's.
    if (!holes.length && spots.size === own.length) return [own];
    const all = [...spots.values()];
    const number = new Map(all.map((s, i) => [s.vertex, i]));
    const loops = [own, ...holes].map((loop) => loop.map((s) => number.get(s.vertex)!));
    return convexPieces(flatOf(all), loops).map((piece) => piece.map((i) => all[i]!));
  });
}

const flatOf = (list: readonly Spot[]): Flat[] => list.map((s) => s.at);

/** Cuts the part on whose outline both ends are; of several the one inside of which the cut runs. */
function withPath(parts: readonly Part[], from: FacePlace, to: FacePlace, way: readonly Spot[]): Part[] {
  const found = parts.flatMap((part) => {
    const { outline } = part;
    const [a, b] = [indexOf(outline, from), indexOf(outline, to)];
    const gap = (b - a + outline.length) % outline.length;
    // Neighbours are joined by an edge already.
    if (a < 0 || b < 0 || (!way.length && (gap < 2 || gap > outline.length - 2))) return [];
    const [p, q] = [outline[a]!.at, (way[0] ?? outline[b]!).at];
    return [{ part, a, b, isInside: isWithin(flatOf(outline), [(p[0] + q[0]) / 2, (p[1] + q[1]) / 2]) }];
  });
  const best = found.find((f) => f.isInside) ?? found[0];
  if (!best) return [...parts];
  const { part, a, b } = best;
  const { outline, holes } = part;
  const both =
    a === b
      ? around(outline, a, way)
      : [
          [...walk(outline, b, a), ...way],
          [...walk(outline, a, b), ...way.toReversed()],
        ];
  const made = both.map((own) => ({ outline: own, holes: holes.filter((h) => isWithin(flatOf(own), h[0]!.at)) }));
  return parts.flatMap((p) => (p === part ? made : [p]));
}

/** What a way around from a corner back to it cuts out, and the rest, which touches itself there. */
function around(outline: readonly Spot[], at: number, way: readonly Spot[]): Spot[][] {
  const isLeft = signedArea(flatOf([outline[at]!, ...way])) > 0;
  const [inner, back] = isLeft ? [way, way.toReversed()] : [way.toReversed(), way];
  return [
    [outline[at]!, ...inner],
    [...walk(outline, at, at), ...back],
  ];
}

/** Cuts what a loop runs around out of the part in which it lies. */
function withLoop(parts: readonly Part[], loop: Spot[]): Part[] {
  const area = signedArea(flatOf(loop));
  if (!area) return [...parts];
  const own = area > 0 ? loop : loop.toReversed();
  const host = parts.find(({ outline, holes }) => [outline, ...holes].every((o, i) => isWithin(flatOf(o), own[0]!.at) === (i === 0)));
  if (!host) return [...parts];
  const inLoop = (h: Spot[]) => isWithin(flatOf(own), h[0]!.at);
  return parts.flatMap((p) =>
    p !== host
      ? [p]
      : [
          { outline: p.outline, holes: [...p.holes.filter((h) => !inLoop(h)), own.toReversed()] },
          { outline: own, holes: p.holes.filter(inLoop) },
        ],
  );
}

/** A cut from an outline to what was cut out of it makes one outline of both, that goes there and back. */
function withBridge(parts: readonly Part[], from: FacePlace, to: FacePlace, way: readonly Spot[]): Part[] | null {
  for (const part of parts)
    for (const hole of part.holes)
      for (const [p, q, on] of [
        [from, to, way],
        [to, from, way.toReversed()],
      ] as const) {
        const [a, b] = [indexOf(part.outline, p), indexOf(hole, q)];
        if (a < 0 || b < 0) continue;
        const outline = [...walk(part.outline, a, a), ...on, ...walk(hole, b, b), ...on.toReversed()];
        return parts.map((other) => (other === part ? { outline, holes: part.holes.filter((h) => h !== hole) } : other));
      }
  return null;
}

/** From one index of an outline on to another; once around where both are one. */
const walk = (outline: readonly Spot[], start: number, end: number): Spot[] =>
  Array.from({ length: ((end - start - 1 + outline.length) % outline.length) + 2 }, (_, k) => outline[(start + k) % outline.length]!);

const indexOf = (outline: readonly Spot[], place: FacePlace): number => outline.findIndex((s) => isSamePlace(s.place, place));
