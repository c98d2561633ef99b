/**
 * The texels whose middle lies inside of a polygon, as runs of rows: `visit` is told the row, the first column, and the
 * one after the last; where it says `true`, no more follow. `points`: 2 a corner, in texels from the top left. What lies
 * on the outline is not inside, so that of two polygons with a side in common neither, or one, has a texel, never both.
 * One that crosses itself holds what it winds around. Exact: every row is looked at.
 *
 * Method: scanlines at the middles of rows; sides are cut from their upper end down, whichever way they run, so that two
 * polygons cut a common one at the same place.
 */
export function polygonTexels(points: Float64Array, visit: (y: number, from: number, to: number) => boolean | void): void {
  let [top, bottom] = [Infinity, -Infinity];
  // Rows on which a corner lies.
  const atCorner = new Set<number>();
  for (let i = 1; i < points.length; i += 2) {
    top = Math.min(top, points[i]!);
    bottom = Math.max(bottom, points[i]!);
    atCorner.add(points[i]! - 0.5);
  }
  for (let y = Math.ceil(top - 0.5); y + 0.5 <= bottom; y++) {
    // On a row of corners inside is what is so just above and just below.
    const runs = insideOn(points, y + 0.5, false);
    const spans = atCorner.has(y) ? common(runs, insideOn(points, y + 0.5, true)) : runs;
    for (let k = 0; k < spans.length; k += 2) {
      const [from, to] = [Math.floor(spans[k]! - 0.5) + 1, Math.ceil(spans[k + 1]! - 0.5)];
      if (from < to && visit(y, from, to)) return;
    }
  }
}

/** Pairs of ends, ascending, between which a polygon winds around the line at a height: just below it, or just above. */
function insideOn(points: Float64Array, height: number, isAbove: boolean): number[] {
  const cuts: { x: number; turn: number }[] = [];
  const last = points.length - 2;
  for (let i = 0, j = last; i <= last; j = i, i += 2) {
    const isDown = points[j + 1]! < points[i + 1]!;
    const [a, b] = isDown ? [j, i] : [i, j];
    const [ya, yb] = [points[a + 1]!, points[b + 1]!];
    if (!(isAbove ? ya < height && height <= yb : ya <= height && height < yb)) continue;
    cuts.push({ x: points[a]! + ((points[b]! - points[a]!) * (height - ya)) / (yb - ya), turn: isDown ? 1 : -1 });
  }
  cuts.sort((p, q) => p.x - q.x);
  const runs: number[] = [];
  let winding = 0;
  for (const { x, turn } of cuts) {
    const before = winding;
    winding += turn;
    // What ends and begins at one place goes on.
    if (before === 0 && runs.at(-1) === x) runs.pop();
    else if (before === 0 || winding === 0) runs.push(x);
  }
  return runs;
}

/** What two ascending lists of runs have in common. */
function common(one: readonly number[], other: readonly number[]): number[] {
  const out: number[] = [];
  for (let i = 0, k = 0; i < one.length && k < other.length;) {
    const [from, to] = [Math.max(one[i]!, other[k]!), Math.min(one[i + 1]!, other[k + 1]!)];
    if (from < to) out.push(from, to);
    if (one[i + 1]! < other[k + 1]!) i += 2;
    else k += 2;
  }
  return out;
}
