import type { Seats } from '../../kit/kit';
import { type Adjacency, nextCorner } from '../../shapes/mesh/adjacency';
import type { PolyMesh } from '../../shapes/mesh/polyMesh';

/** How far inside of an edge, in texels, the texel is looked for that lies at it. */
const inside = 0.25;

/**
 * Texels of an art of `size` that touch on the model across a seam, where the art shows them apart: for each of them those
 * on the other side. Method: every edge whose sides lie at different places is walked in steps of less than half a texel.
 */
export function seamLinks(
  { faceStart }: Pick<PolyMesh, 'faceStart'>,
  adjacency: Adjacency,
  { cell, at }: Pick<Seats, 'cell' | 'at'>,
  art: number,
  { width, height }: { width: number; height: number },
): Map<number, Set<number>> {
  const links = new Map<number, Set<number>>();
  if (!at) return links;
  const { neighbour, cornerFace } = adjacency;
  const x = (c: number) => at[c * 2]! * width;
  const y = (c: number) => at[c * 2 + 1]! * height;
  /** The texel beside a share of the way along the edge of a corner, on the side of its face. */
  const texelAt = (c: number, share: number): number => {
    const n = nextCorner(adjacency, c);
    const f = cornerFace[c]!;
    let [mx, my] = [0, 0];
    for (let k = faceStart[f]!; k < faceStart[f + 1]!; k++) [mx, my] = [mx + x(k), my + y(k)];
    const corners = faceStart[f + 1]! - faceStart[f]!;
    const [px, py] = [x(c) + (x(n) - x(c)) * share, y(c) + (y(n) - y(c)) * share];
    const [dx, dy] = [mx / corners - px, my / corners - py];
    const step = inside / Math.max(inside, Math.hypot(dx, dy));
    const [tx, ty] = [Math.floor(px + dx * step), Math.floor(py + dy * step)];
    return tx >= 0 && ty >= 0 && tx < width && ty < height ? ty * width + tx : -1;
  };
  for (let c = 0; c < neighbour.length; c++) {
    const other = neighbour[c]!;
    if (other < c || cell[cornerFace[c]!] !== art || cell[cornerFace[other]!] !== art) continue;
    const [n, m] = [nextCorner(adjacency, c), nextCorner(adjacency, other)];
    const isAgainst = adjacency.against[c] === 1;
    const [from, to] = isAgainst ? [other, m] : [m, other];
    const isTogether = x(c) === x(from) && y(c) === y(from) && x(n) === x(to) && y(n) === y(to);
    if (isTogether) continue;
    const length = Math.max(Math.hypot(x(n) - x(c), y(n) - y(c)), Math.hypot(x(m) - x(other), y(m) - y(other)));
    const steps = Math.max(1, Math.ceil(length * 2.5));
    for (let i = 0; i < steps; i++) {
      const share = (i + 0.5) / steps;
      const [a, b] = [texelAt(c, share), texelAt(other, isAgainst ? share : 1 - share)];
      if (a < 0 || b < 0 || a === b) continue;
      link(a, b);
      link(b, a);
    }
  }
  return links;

  function link(a: number, b: number): void {
    const own = links.get(a);
    if (own) own.add(b);
    else links.set(a, new Set([b]));
  }
}
