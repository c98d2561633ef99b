export interface Column {
  data: ArrayLike<number>;
  width: number;
}

const floats = new Float32Array(1);
const floatBits = new Uint32Array(floats.buffer);

/**
 * For each of `count` rows, the first row that is equal to it in every column (compared as float32).
 * `first[r] === r` marks the distinct rows. Method: open addressing over a hash of the values' bits.
 */
export function firstEqualRows(columns: readonly Column[], count: number): { first: Uint32Array; distinct: number } {
  const first = new Uint32Array(count);
  let size = 16;
  while (size < count * 2) size *= 2;
  const table = new Int32Array(size).fill(-1);
  let distinct = 0;
  for (let row = 0; row < count; row++) {
    let h = 0x811c9dc5;
    for (const { data, width } of columns)
      for (let k = 0; k < width; k++) {
        floats[0] = data[row * width + k]! + 0;
        h = Math.imul(h ^ floatBits[0]!, 0x9e3779b1);
        h ^= h >>> 15;
      }
    let i = (h ^ (h >>> 16)) & (size - 1);
    for (;;) {
      const other = table[i]!;
      if (other < 0) {
        table[i] = first[row] = row;
        distinct++;
        break;
      }
      if (isEqual(columns, row, other)) {
        first[row] = other;
        break;
      }
      i = (i + 1) & (size - 1);
    }
  }
  return { first, distinct };
}

/**
 * The distinct rows in order of appearance, and for each row its place among them: vertices and indices of an
 * indexed mesh.
 */
export function indexRows(columns: readonly Column[], count: number): { rows: Uint32Array; index: Uint32Array } {
  const { first, distinct } = firstEqualRows(columns, count);
  const rows = new Uint32Array(distinct);
  const index = new Uint32Array(count);
  for (let i = 0, r = 0; i < count; i++) {
    if (first[i] === i) {
      index[i] = r;
      rows[r++] = i;
    } else index[i] = index[first[i]!]!;
  }
  return { rows, index };
}

function isEqual(columns: readonly Column[], a: number, b: number): boolean {
  for (const { data, width } of columns)
    for (let k = 0; k < width; k++) if (Math.fround(data[a * width + k]!) !== Math.fround(data[b * width + k]!)) return false;
  return true;
}
