/** Faces of a model may be found on the other with areas that differ by this share (rounding of files). */
const rounding = 0.005;

/** From this share of faces on, two models are taken for copies of one another. */
const most = 0.5;

/**
 * Whether a model may be an altered copy of another one: at least half of its faces (or of the other's, where those are
 * fewer) have one of the same area there. `areas`: square metres of each face. A hint that costs a sort, no match.
 */
export function isAlteredCopy(areas: Float32Array, others: Float32Array): boolean {
  const [p, q] = [areas.slice().sort(), others.slice().sort()];
  let alike = 0;
  for (let i = 0, k = 0; i < p.length && k < q.length;) {
    if (Math.abs(p[i]! - q[k]!) <= rounding * Math.max(p[i]!, q[k]!)) {
      alike++;
      i++;
      k++;
    } else if (p[i]! < q[k]!) i++;
    else k++;
  }
  const fewest = Math.min(p.length, q.length);
  return fewest > 0 && alike >= most * fewest && alike * 4 >= Math.max(p.length, q.length);
}
