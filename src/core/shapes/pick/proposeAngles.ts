import type { Adjacency } from '../mesh/adjacency';

export interface ProposedAngles {
  /** Degrees, whole. */
  flat: number;
  smooth: number;
}

/**
 * Angles that suit the mesh, from how its edges fold: thresholds in the empty stretches of the histogram of
 * folds. `smooth` lies in the middle of the widest stretch between 12° and 80°, where no edge would be a
 * doubtful crease. `flat` lies in the lowest stretch of at least 4°, above the folds that are only
 * unevenness, and at most at 20°.
 */
export function proposeAngles({ neighbour, cosine }: Adjacency): ProposedAngles {
  const bins = new Float64Array(91);
  let edges = 0;
  for (let c = 0; c < neighbour.length; c++) {
    if (neighbour[c]! <= c) continue;
    const degrees = (Math.acos(Math.max(-1, Math.min(1, cosine[c]!))) * 180) / Math.PI;
    bins[Math.min(90, Math.floor(degrees + 0.25))]!++;
    edges++;
  }
  const few = edges * 0.004;
  const isEmpty = (degree: number) => bins[degree]! <= few;
  const stretches = (from: number, to: number) => {
    const found: { start: number; length: number }[] = [];
    for (let d = from; d <= to; d++) {
      if (!isEmpty(d)) continue;
      const last = found.at(-1);
      if (last && last.start + last.length === d) last.length++;
      else found.push({ start: d, length: 1 });
    }
    return found;
  };
  const middle = ({ start, length }: { start: number; length: number }) => Math.round(start + (length - 1) / 2);
  const lowest = stretches(2, 60).find((s) => s.length >= 4);
  const widest = stretches(12, 80).reduce((a, b) => (b.length > a.length ? b : a), { start: 30, length: 1 });
  return { flat: lowest ? Math.min(20, Math.max(3, middle(lowest))) : 8, smooth: middle(widest) };
}
