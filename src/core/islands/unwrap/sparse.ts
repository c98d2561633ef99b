/** Entries of a Hermitian matrix, each pair (i, j) given once; those at one place add up. Real where `im` is absent. */
export interface Entries {
  n: number;
  row: Uint32Array;
  column: Uint32Array;
  re: Float64Array;
  im?: Float64Array;
}

/** L of A = L Lᴴ, in columns, with its unknowns in `order`. */
export interface Factor {
  order: Uint32Array;
  start: Uint32Array;
  row: Uint32Array;
  re: Float64Array;
  im?: Float64Array;
}

/** Lists of the neighbours of each node. */
export interface Graph {
  start: Uint32Array;
  next: Uint32Array;
}

const smallest = 24;

/**
 * An order of the unknowns on a surface in which a factor stays sparse: halves first, then the nodes between them.
 * Method: nested dissection (George, 1973) at the median of the longest side. `places`: 3 for each node.
 */
export function dissect(places: Float64Array, { start, next }: Graph): Uint32Array {
  const n = start.length - 1;
  const order = new Uint32Array(n);
  const side = new Uint32Array(n);
  let filled = 0;
  let stamp = 0;
  const divide = (nodes: Uint32Array): void => {
    if (nodes.length <= smallest) {
      for (const v of nodes) order[filled++] = v;
      return;
    }
    const axis = longestAxis(places, nodes);
    const along = Float64Array.from(nodes, (v) => places[v * 3 + axis]!).sort();
    const middle = along[along.length >> 1]!;
    let halves = [nodes.filter((v) => places[v * 3 + axis]! < middle), nodes.filter((v) => places[v * 3 + axis]! >= middle)];
    if (!halves[0]!.length) halves = [nodes.slice(0, nodes.length >> 1), nodes.slice(nodes.length >> 1)];
    const [low, high] = halves as [Uint32Array, Uint32Array];
    stamp++;
    for (const v of high) side[v] = stamp;
    const isBetween = (v: number) => {
      for (let k = start[v]!; k < start[v + 1]!; k++) if (side[next[k]!] === stamp) return true;
      return false;
    };
    const between = low.filter(isBetween);
    const rest = low.filter((v) => !isBetween(v));
    divide(rest);
    divide(high);
    for (const v of between) order[filled++] = v;
  };
  divide(Uint32Array.from({ length: n }, (_, v) => v));
  return order;
}

function longestAxis(places: Float64Array, nodes: Uint32Array): number {
  const sides = [0, 1, 2].map((k) => {
    let [low, high] = [Infinity, -Infinity];
    for (const v of nodes) {
      low = Math.min(low, places[v * 3 + k]!);
      high = Math.max(high, places[v * 3 + k]!);
    }
    return high - low;
  });
  return sides.indexOf(Math.max(...sides));
}

/** Columns of the upper half of the matrix in the given order, each row once in a column. */
function upperHalf({ n, row, column, re, im }: Entries, order: Uint32Array): Omit<Factor, 'order'> {
  const place = new Uint32Array(n);
  order.forEach((v, k) => (place[v] = k));
  const count = new Uint32Array(n + 1);
  for (let e = 0; e < row.length; e++) count[Math.max(place[row[e]!]!, place[column[e]!]!) + 1]!++;
  for (let k = 0; k < n; k++) count[k + 1]! += count[k]!;
  const fill = count.slice(0, n);
  const out = { start: new Uint32Array(n + 1), row: new Uint32Array(row.length), re: new Float64Array(row.length) };
  const outIm = im && new Float64Array(row.length);
  for (let e = 0; e < row.length; e++) {
    const [a, b] = [place[row[e]!]!, place[column[e]!]!];
    const at = fill[Math.max(a, b)]!++;
    out.row[at] = Math.min(a, b);
    out.re[at] = re[e]!;
    // Below the diagonal the entry stands for its twin above, which is its conjugate.
    if (outIm) outIm[at] = a <= b ? im[e]! : -im[e]!;
  }
  const seen = new Int32Array(n).fill(-1);
  let kept = 0;
  for (let k = 0; k < n; k++) {
    const first = kept;
    for (let p = count[k]!; p < count[k + 1]!; p++) {
      const i = out.row[p]!;
      const at = seen[i]! >= first ? seen[i]! : kept++;
      if (at === seen[i]) {
        out.re[at]! += out.re[p]!;
        if (outIm) outIm[at]! += outIm[p]!;
      } else {
        seen[i] = at;
        out.row[at] = i;
        out.re[at] = out.re[p]!;
        if (outIm) outIm[at] = outIm[p]!;
      }
    }
    out.start[k + 1] = kept;
  }
  return { ...out, ...(outIm && { im: outIm }) };
}

/** For each column the next one that its entries reach; -1 at a root (Liu, 1986). */
function eliminationTree(start: Uint32Array, row: Uint32Array, n: number): Int32Array {
  const parent = new Int32Array(n).fill(-1);
  const ancestor = new Int32Array(n).fill(-1);
  for (let k = 0; k < n; k++)
    for (let p = start[k]!; p < start[k + 1]!; p++) {
      let i = row[p]!;
      while (i !== -1 && i < k) {
        const up = ancestor[i]!;
        ancestor[i] = k;
        if (up === -1) parent[i] = k;
        i = up;
      }
    }
  return parent;
}

/**
 * Cholesky factor of a positive definite matrix; `null` where it is not. Method: row by row, each row's pattern out
 * of the elimination tree (Davis, Direct Methods for Sparse Linear Systems, 2006, chapter 4).
 */
export function factorise(entries: Entries, order: Uint32Array): Factor | null {
  const { n } = entries;
  const upper = upperHalf(entries, order);
  const parent = eliminationTree(upper.start, upper.row, n);
  const mark = new Int32Array(n).fill(-1);
  const stack = new Uint32Array(n);
  const path = new Uint32Array(n);
  /** Columns in which row k has an entry, in an order in which they can be worked off, at the end of the stack. */
  const reach = (k: number): number => {
    let top = n;
    mark[k] = k;
    for (let p = upper.start[k]!; p < upper.start[k + 1]!; p++) {
      let length = 0;
      for (let i = upper.row[p]!; mark[i] !== k; i = parent[i]!) {
        path[length++] = i;
        mark[i] = k;
      }
      while (length > 0) stack[--top] = path[--length]!;
    }
    return top;
  };
  const start = new Uint32Array(n + 1);
  for (let k = 0; k < n; k++) {
    start[k + 1]!++;
    for (let t = reach(k); t < n; t++) start[stack[t]! + 1]!++;
  }
  for (let k = 0; k < n; k++) start[k + 1]! += start[k]!;
  mark.fill(-1);
  const row = new Uint32Array(start[n]!);
  const re = new Float64Array(start[n]!);
  const im = upper.im && new Float64Array(start[n]!);
  const fill = start.slice(0, n);
  const x = new Float64Array(n);
  const y = new Float64Array(im ? n : 0);
  for (let k = 0; k < n; k++) {
    const top = reach(k);
    let whole = 0;
    for (let p = upper.start[k]!; p < upper.start[k + 1]!; p++) {
      x[upper.row[p]!]! += upper.re[p]!;
      if (im) y[upper.row[p]!]! += upper.im![p]!;
    }
    let d = x[k]!;
    whole = Math.abs(d);
    x[k] = 0;
    if (im) y[k] = 0;
    for (let t = top; t < n; t++) {
      const i = stack[t]!;
      const pivot = re[start[i]!]!;
      const a = x[i]! / pivot;
      x[i] = 0;
      const end = fill[i]!;
      if (im) {
        const b = y[i]! / pivot;
        y[i] = 0;
        for (let p = start[i]! + 1; p < end; p++) {
          const r = row[p]!;
          x[r] = x[r]! - (re[p]! * a - im[p]! * b);
          y[r] = y[r]! - (re[p]! * b + im[p]! * a);
        }
        d -= a * a + b * b;
        im[end] = -b;
      } else {
        for (let p = start[i]! + 1; p < end; p++) x[row[p]!] = x[row[p]!]! - re[p]! * a;
        d -= a * a;
      }
      row[end] = k;
      re[end] = a;
      fill[i] = end + 1;
    }
    if (!(d > whole * 1e-14)) return null;
    row[fill[k]!] = k;
    re[fill[k]!++] = Math.sqrt(d);
  }
  return { order, start, row, re, ...(im && { im }) };
}

/** Solves A x = b in place; `im` is left alone by a real factor, which is asked twice instead. */
export function solve({ order, start, row, re, im }: Factor, bRe: Float64Array, bIm: Float64Array): void {
  const n = order.length;
  const x = Float64Array.from(order, (v) => bRe[v]!);
  const y = Float64Array.from(order, (v) => bIm[v]!);
  for (let k = 0; k < n; k++) {
    const d = re[start[k]!]!;
    const a = (x[k] = x[k]! / d);
    const b = (y[k] = y[k]! / d);
    for (let p = start[k]! + 1; p < start[k + 1]!; p++) {
      const i = row[p]!;
      const c = im ? im[p]! : 0;
      x[i] = x[i]! - (re[p]! * a - c * b);
      y[i] = y[i]! - (re[p]! * b + c * a);
    }
  }
  for (let k = n - 1; k >= 0; k--) {
    let [a, b] = [x[k]!, y[k]!];
    for (let p = start[k]! + 1; p < start[k + 1]!; p++) {
      const i = row[p]!;
      const c = im ? -im[p]! : 0;
      a -= re[p]! * x[i]! - c * y[i]!;
      b -= re[p]! * y[i]! + c * x[i]!;
    }
    x[k] = a / re[start[k]!]!;
    y[k] = b / re[start[k]!]!;
  }
  order.forEach((v, k) => {
    bRe[v] = x[k]!;
    bIm[v] = y[k]!;
  });
}
