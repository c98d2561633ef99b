import svgpath from 'svgpath';
import { stampLimits } from '../../ground/limits';
import { apart, boundsOf } from './stampOutlines';
import type { Flat } from './facePlaces';

/** A path of an SVG file: its `d`, and the transforms of what it stands in, the outermost first. */
export interface SvgPath {
  d: string;
  transforms: readonly string[];
}

/** Straight pieces for each curve. */
const perCurve = 8;
/** Share of a drawing's size within which two corners are one. */
const sameCorner = 1e-4;

/**
 * The outlines of SVG paths in a square of side 1 around the middle, up being up, and how high they are beside their width. Each
 * subpath is closed; curves become straight pieces. Throws where there is no outline, or a path is none.
 */
export function svgOutlines(paths: readonly SvgPath[]): { outlines: Flat[][]; aspect: number } {
  if (paths.reduce((sum, { d }) => sum + d.length, 0) > stampLimits.letters)
    throw new Error('The drawing is too long to be stamped: keep to a few outlines.');
  const drawn = paths.flatMap((path) => subpaths(path));
  const all = drawn.flat();
  const bounds = all.length ? boundsOf(all) : [];
  const [width, height] = bounds.map(([low, high]) => high - low) as [number, number];
  if (!(width > 0 && height > 0 && Number.isFinite(width + height)))
    throw new Error('The drawing has no outline: it needs a path that surrounds something.');
  const middle = bounds.map(([low, high]) => (low + high) / 2) as unknown as Flat;
  const outlines = drawn
    .map((o) => o.map(([x, y]): Flat => [(x - middle[0]) / width, (middle[1] - y) / height]))
    .map((o) => o.filter((p, i) => apart(p, o[(i + 1) % o.length]!) > sameCorner))
    .filter((o) => o.length > 2);
  if (!outlines.length) throw new Error('The drawing has no outline: it needs a path that surrounds something.');
  return { outlines, aspect: height / width };
}

function subpaths({ d, transforms }: SvgPath): Flat[][] {
  const path = svgpath(d);
  if ((path as unknown as { err?: string }).err)
    throw new Error('A path of the drawing cannot be read; write it anew from the program that drew it.');
  // The innermost transform comes first to a point.
  const straight = transforms
    .toReversed()
    .reduce((p, t) => p.transform(t), path)
    .abs()
    .unshort()
    .unarc();
  const out: Flat[][] = [];
  straight.iterate((segment, _, x, y) => {
    const [kind, ...numbers] = segment as [string, ...number[]];
    const own = out.at(-1);
    const at = (i: number): Flat => [numbers[i]!, numbers[i + 1]!];
    if (kind === 'M') out.push([at(0)]);
    else if (kind === 'L') own!.push(at(0));
    else if (kind === 'H') own!.push([numbers[0]!, y]);
    else if (kind === 'V') own!.push([x, numbers[0]!]);
    else if (kind === 'C') own!.push(...curve([[x, y], at(0), at(2), at(4)]));
    else if (kind === 'Q') own!.push(...curve([[x, y], at(0), at(2)]));
  });
  return out.filter((o) => o.length > 2);
}

/** Points on a Bézier curve, all but its first (de Casteljau). */
function curve(handles: readonly Flat[]): Flat[] {
  return Array.from({ length: perCurve }, (_, i) => {
    const share = (i + 1) / perCurve;
    let points = handles;
    while (points.length > 1)
      points = points
        .slice(1)
        .map((p, k): Flat => [points[k]![0] + (p[0] - points[k]![0]) * share, points[k]![1] + (p[1] - points[k]![1]) * share]);
    return points[0]!;
  });
}
