import { chartFaces, chartOf, graphOf, isDisk, trianglesOfFaces, type Chart, type IsSeam, type Surface } from './chart';
import { conformal, farApart } from './conformal';
import { cutOpen } from './cutOpen';
import { distortion, measureFlat, restOf, toTrueSize, type Flat } from './flat';
import { onCircle } from './onCircle';
import { onItself } from './onItself';
import { relax } from './relax';
import { dissect } from './sparse';
import type { Adjacency } from '../../shapes/mesh/adjacency';
import { edgeCorner } from '../../shapes/pick/edges';
import { unfold } from './unfold';
import { upright } from './upright';

/** What unwrapping made of some faces. */
export interface Unwrapped {
  /** Metres to the right and down for each corner of the mesh, 2 each; of corners of other faces 0. */
  places: Float32Array;
  /** Faces of each island. */
  islands: Uint32Array[];
  /** Edges that had to be cut besides the seams, as `edgeCorner` gives them. */
  cuts: Uint32Array;
  /** Triangles that are flipped, and islands that still lie on themselves. */
  flipped: number;
  overlapping: number;
}

export interface UnwrapOptions {
  /** Steps by which islands are brought nearer to true lengths; 0 keeps angles alone. */
  steps: number;
  /** Whether islands that cannot lie flat are cut. Else such are left out, in `Refused`. */
  mayCut: boolean;
  /** Told which share of the work is done. */
  onStep?: (share: number) => void;
}

export const usualSteps = 12;
/** Steps for what had to begin on a circle, which is far from any true length. */
const stepsFromCircle = 200;
/** An island that lies on itself, or is stretched beyond use, is halved so often at most. */
const mostHalvings = 24;
/** At first between what lies over each other; where that does not help, across its length, which leaves ever smaller pieces. */
const foldsFirst = 10;
/** Mean stretch from which a ring is better cut. */
const ringStretch = 1.15;
/** Mean stretch from which another start is tried, and from which an island is better cut. */
const doubtful = 1.3;
const unbearable = 2;

/** Islands that cannot be laid flat without a cut. */
export interface Refused {
  closed: Uint32Array[];
}

/**
 * Lays faces flat, island by island, along seams: angles first, then true lengths, no triangle flipped. Islands keep
 * the size that they have on the mesh, stand upright where they can, and lie anywhere: see `packIslands`.
 *
 * What is closed all around, or a tube, is cut open where it may be; so is what would lie on itself. Returns what is
 * refused where it may not.
 */
export function unwrap(surface: Surface, faces: Uint32Array, isSeam: IsSeam, options: UnwrapOptions): Unwrapped | Refused {
  const { mesh, adjacency } = surface;
  const triangleStart = trianglesOfFaces(surface.triangles, adjacency.areas.length);
  const cuts = new Set<number>();
  const isCut: IsSeam = (c) => isSeam(c) || cuts.has(edgeCorner(adjacency, c));
  const out: Unwrapped = {
    places: new Float32Array(mesh.cornerVertex.length * 2),
    islands: [],
    cuts: new Uint32Array(0),
    flipped: 0,
    overlapping: 0,
  };
  const closed: Uint32Array[] = [];
  let done = 0;
  const waiting = chartFaces(adjacency, faces, isSeam).map((list) => ({ list, halvings: 0 }));
  for (let next = waiting.pop(); next; next = waiting.pop()) {
    const { list, halvings } = next;
    let chart = chartOf(surface, list, isCut, triangleStart);
    let laid = isDisk(chart) || isRing(chart) ? flatten(chart, options.steps) : null;
    if (laid && !isDisk(chart) && isTube(chart, laid)) laid = null;
    if (!laid && !options.mayCut) {
      closed.push(list);
      continue;
    }
    if (!laid || (options.mayCut && laid.stretch > unbearable)) {
      const further = cutOpen(surface, chart);
      if (further.length || !laid) {
        for (const c of further) cuts.add(c);
        chart = chartOf(surface, list, isCut, triangleStart);
        laid = flatten(chart, options.steps);
      }
    }
    const flat = laid?.flat ?? seenFlat(chart);
    const folded = onItself(flat, chart.triangles);
    const apart =
      folded && halvings < foldsFirst
        ? facesOfTriangles(adjacency, chart, folded)
        : folded || (laid && laid.stretch > unbearable)
          ? farthestFaces(adjacency, chart)
          : null;
    if (apart && options.mayCut && halvings < mostHalvings && list.length > 1) {
      for (const c of halved(surface, chart, apart, isCut)) cuts.add(c);
      waiting.push(...chartFaces(adjacency, list, isCut).map((part) => ({ list: part, halvings: halvings + 1 })));
      continue;
    }
    if (folded) out.overlapping++;
    out.flipped += measureFlat(chart.triangles, restOf(chart), flat).flipped;
    upright(chart, flat);
    write(chart, flat, out.places);
    out.islands.push(list);
    done += list.length;
    options.onStep?.(done / faces.length);
  }
  if (closed.length) return { closed };
  out.islands.sort((a, b) => a[0]! - b[0]!);
  return { ...out, cuts: Uint32Array.from(cuts).sort() };
}

const isRing = ({ loops, euler }: Chart): boolean => loops.length > 1 && euler === 2 - loops.length;

/** Whether a chart with several borders stretches so much that it is a tube and no plate with holes. */
const isTube = (chart: Chart, { flat, stretch }: Laid): boolean => stretch > ringStretch || onItself(flat, chart.triangles) !== null;

interface Laid {
  flat: Flat;
  /** See `distortion`. */
  stretch: number;
}

/** `null` where no way leads to a flat chart. Of the starts that flip nothing the one that stretches least is taken. */
function flatten(chart: Chart, steps: number): Laid | null {
  const rest = restOf(chart);
  const order = dissect(chart.points, graphOf(chart));
  const { triangles } = chart;
  const laid = (flat: Flat | null): Laid | null => {
    if (!flat?.x.every(Number.isFinite) || !flat.y.every(Number.isFinite)) return null;
    toTrueSize(triangles, rest, flat);
    return { flat, stretch: distortion(triangles, rest, flat) };
  };
  let best = laid(conformal(chart, rest, order));
  let count = steps;
  // Where areas hang by thin edges, the equations of angles leave their sizes open.
  if (!best || best.stretch > doubtful) best = lesser(best, laid(unfold(chart, rest)));
  if ((!best || best.stretch === Infinity) && isDisk(chart)) {
    best = lesser(best, laid(onCircle(chart, order)));
    count = stepsFromCircle;
  }
  if (!best || !count) return best;
  relax(triangles, rest, best.flat, order, count);
  return { flat: best.flat, stretch: distortion(triangles, rest, best.flat) };
}

const lesser = (a: Laid | null, b: Laid | null): Laid | null => (a && (!b || a.stretch <= b.stretch) ? a : b);

/** A chart without area, or one that resists: as it is seen along its shortest axis. */
function seenFlat({ points }: Chart): Flat {
  const n = points.length / 3;
  const sides = [0, 1, 2].map((k) => {
    const along = Array.from({ length: n }, (_, v) => points[v * 3 + k]!);
    return along.reduce((a, b) => Math.max(a, b), -Infinity) - along.reduce((a, b) => Math.min(a, b), Infinity);
  });
  const drop = sides.indexOf(Math.min(...sides));
  const [u, v] = [(drop + 1) % 3, (drop + 2) % 3];
  return {
    x: Float64Array.from({ length: n }, (_, i) => points[i * 3 + u]!),
    y: Float64Array.from({ length: n }, (_, i) => points[i * 3 + v]!),
  };
}

type Sides = [one: readonly number[], other: readonly number[]];

const facesOfTriangles = ({ cornerFace }: Adjacency, { triangleCorners }: Chart, pair: readonly [number, number]): Sides =>
  pair.map((t) => [cornerFace[triangleCorners[t * 3]!]!]) as [number[], number[]];

/** Faces at the two vertices of the border that are farthest from each other; `null` where it has none. */
function farthestFaces({ cornerFace }: Adjacency, chart: Chart): Sides | null {
  const { corners, cornerVertex } = chart;
  const at = (v: number) => [...corners].filter((_, i) => cornerVertex[i] === v).map((c) => cornerFace[c]!);
  return (farApart(chart)?.map(at) as Sides | undefined) ?? null;
}

/** Edges between the faces that are nearer to some of them, and those nearer to others, counted in faces. */
function halved({ adjacency }: Surface, { faces, corners }: Chart, sides: Sides, isCut: IsSeam): number[] {
  const { faceStart, neighbour, cornerFace, against } = adjacency;
  const own = new Set(faces);
  const side = new Map<number, number>();
  const list: number[] = [];
  const across = (c: number) => {
    const d = neighbour[c]!;
    return d < 0 || against[c] || isCut(c) || !own.has(cornerFace[d]!) ? -1 : cornerFace[d]!;
  };
  sides.forEach((these, k) => {
    for (const f of these) {
      if (side.has(f)) continue;
      side.set(f, k);
      list.push(f);
    }
  });
  for (let i = 0; i < list.length; i++)
    for (let c = faceStart[list[i]!]!; c < faceStart[list[i]! + 1]!; c++) {
      const g = across(c);
      if (g < 0 || side.has(g)) continue;
      side.set(g, side.get(list[i]!)!);
      list.push(g);
    }
  const isBetween = (c: number) => side.has(across(c)) && side.get(cornerFace[c]!) !== side.get(across(c));
  return [...corners].filter(isBetween).map((c) => edgeCorner(adjacency, c));
}

function write({ corners, cornerVertex }: Chart, { x, y }: Flat, places: Float32Array): void {
  corners.forEach((c, i) => {
    places[c * 2] = x[cornerVertex[i]!]!;
    places[c * 2 + 1] = -y[cornerVertex[i]!]!;
  });
}
