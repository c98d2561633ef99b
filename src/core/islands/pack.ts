/** Pieces to be laid side by side, each as triangles: 6 numbers each, in any unit. */
export type Piece = Float64Array;

/** Where a piece came to lie: turned by so many quarters, clockwise where down is positive, then moved. */
export interface Placed {
  quarters: number;
  x: number;
  y: number;
}

export interface PackOptions {
  /** The room, in texels. */
  width: number;
  height: number;
  /** Texels between pieces at least; each with the larger of the two margins where groups differ. */
  margin: number;
  groups?: ArrayLike<number>;
  groupMargin?: number;
  /** Whether pieces may be turned by quarters. */
  mayTurn: boolean;
  /** What lies in the room already and stays: in texels from its top left. */
  fixed?: readonly Piece[];
  /** The size at most. */
  most?: number;
}

/** Cells of the grid along the longer side of the room. */
const cellsAcross = 320;

/** A piece on the grid. */
interface Mask {
  width: number;
  height: number;
  /** The cells that it touches: row, first and last column of each run, the longest run first. */
  runs: Int32Array;
  /** Where the grid begins, in the piece's unit times the size. */
  x0: number;
  y0: number;
}

/**
 * Lays pieces side by side at one size, as large as it finds room for. Returns the size (texels a unit) and where each
 * lies; a size of 0 where not even the margins find room.
 *
 * Method: pieces on a grid of bits, every cell that they touch; the largest first, each at the lowest place, then the
 * leftmost, at which it is free; at sizes that come nearer to the largest that fits.
 */
export function packPieces(pieces: readonly Piece[], options: PackOptions): { size: number; places: Placed[] } {
  const { width, height } = options;
  const area = pieces.reduce((sum, p) => sum + areaOf(p), 0);
  const longest = pieces.reduce((most, p) => Math.max(most, ...sidesOf(p)), 0);
  if (!(longest > 0)) return { size: 0, places: [] };
  let best: { size: number; places: Placed[] } = { size: 0, places: [] };
  let over = Math.min(options.most ?? Infinity, Math.max(width, height) / longest);
  let size = Math.min(over, Math.sqrt((0.75 * width * height) / Math.max(area, 1e-12)));
  const tries = pieces.length > 150 ? 6 : 14;
  if (options.most) size = over;
  for (let i = 0; i < tries && over > best.size * 1.008; i++) {
    const { places, used } = attempt(pieces, size, options);
    const ratio = Math.sqrt(height / Math.max(used, 1e-9));
    if (places && used <= height) {
      best = { size, places };
      size = Math.min((best.size + over) / 2, best.size * Math.max(1.005, ratio));
    } else {
      over = size;
      size = best.size ? (best.size + over) / 2 : size * Math.min(0.985, Math.max(0.3, ratio));
    }
  }
  for (let i = 0; !best.size && i < 12; i++, size *= 0.6) {
    const { places, used } = attempt(pieces, size, options);
    if (places && used <= height) best = { size, places };
  }
  return best;
}

/** Lays all pieces into a room without a floor, and says how much of its height they took. */
function attempt(pieces: readonly Piece[], size: number, options: PackOptions): { places: Placed[] | null; used: number } {
  const { width, height, margin, groups, groupMargin = margin, mayTurn, fixed = [] } = options;
  const cell = Math.max(width, height) / cellsAcross;
  const across = Math.floor(width / cell + 1e-9);
  const down = Math.floor(height / cell + 1e-9);
  // Beyond the room there is place for what does not fit, so that it is known by how much.
  const rows = down * 3 + 8;
  const words = (across >> 5) + 2;
  const taken = new Map<number, Uint32Array>();
  const gridFor = (group: number) => {
    const found = taken.get(group);
    if (found) return found;
    const grid = new Uint32Array(rows * words);
    taken.set(group, grid);
    return grid;
  };
  const groupOf = (i: number) => (groups && groupMargin > margin ? groups[i]! : 0);
  const present = [...new Set(pieces.map((_, i) => groupOf(i)))];
  present.forEach(gridFor);
  for (const piece of fixed) {
    const mask = maskOf(piece, 1, 0, cell);
    const [x, y] = [Math.floor(mask.x0 / cell), Math.floor(mask.y0 / cell)];
    // Its own cells begin where it does, not where those of the grid do: one more around it.
    for (const g of present) take(gridFor(g), words, rows, mask, x, y, Math.ceil(Math.max(margin, groupMargin) / cell - 1e-9) + 1);
  }
  const masks = pieces.map((p) => (mayTurn ? [0, 1] : [0]).map((q) => maskOf(p, size, q, cell)));
  const order = pieces.map((_, i) => i).sort((a, b) => weightOf(masks[b]![0]!) - weightOf(masks[a]![0]!) || a - b);
  const places: Placed[] = pieces.map(() => ({ quarters: 0, x: 0, y: 0 }));
  // A row at which a piece no wider and no higher was refused all along need not be looked at again.
  const refused: { width: number; height: number; y: number }[] = [];
  let [bottom, laid] = [0, 0];
  for (const i of order) {
    let found: { mask: Mask; quarters: number; x: number; y: number } | null = null;
    const own = taken.get(groupOf(i))!;
    masks[i]!.forEach((mask, quarters) => {
      if (mask.width > across) return;
      const from = refused.reduce((y, r) => (r.width <= mask.width && r.height <= mask.height ? Math.max(y, r.y) : y), 0);
      const until = found ? found.y + found.mask.height - mask.height : rows - mask.height;
      const at = firstFree(own, words, across, mask, from, until);
      if (at && (!found || at[1] + mask.height < found.y + found.mask.height)) found = { mask, quarters, x: at[0], y: at[1] };
    });
    const at = found as { mask: Mask; quarters: number; x: number; y: number } | null;
    if (!at) return { places: null, used: height * 3 };
    const { mask, x, y } = at;
    refused[laid++ % 64] = { width: mask.width, height: mask.height, y };
    for (const g of present) take(gridFor(g), words, rows, mask, x, y, Math.ceil((g === groupOf(i) ? margin : groupMargin) / cell - 1e-9));
    bottom = Math.max(bottom, y + mask.height);
    places[i] = { quarters: at.quarters, x: x * cell - mask.x0, y: y * cell - mask.y0 };
  }
  return { places, used: bottom * cell };
}

const weightOf = ({ width, height }: Mask): number => Math.max(width, height) * 4096 + width * height;

/** The lowest, then leftmost place at which a mask meets nothing; `null` where there is none down to `until`. */
function firstFree(grid: Uint32Array, words: number, across: number, mask: Mask, from: number, until: number): [number, number] | null {
  const { runs, width } = mask;
  for (let y = from; y <= until; y++)
    for (let x = 0; x <= across - width;) {
      let met = -1;
      let k = 0;
      for (; k < runs.length && met < 0; k += 3) met = lastTaken(grid, (y + runs[k]!) * words, x + runs[k + 1]!, x + runs[k + 2]!);
      if (met < 0) return [x, y];
      // Until that run has passed what it meets, it will meet it.
      x = met + 1 - runs[k - 2]!;
    }
  return null;
}

/** The last taken cell of a row between two columns; -1 where there is none. */
function lastTaken(grid: Uint32Array, row: number, first: number, last: number): number {
  for (let w = last >> 5; w >= first >> 5; w--) {
    let bits = grid[row + w]!;
    if (w === last >> 5) bits &= 0xffffffff >>> (31 - (last & 31));
    if (w === first >> 5) bits &= -1 << (first & 31);
    if (bits) return w * 32 + 31 - Math.clz32(bits);
  }
  return -1;
}

/** Marks the cells of a mask as taken, and so many around each. */
function take(grid: Uint32Array, words: number, rows: number, { runs }: Mask, x: number, y: number, around: number): void {
  for (let k = 0; k < runs.length; k += 3) {
    const first = Math.max(0, x + runs[k + 1]! - around);
    const last = Math.min(words * 32 - 1, x + runs[k + 2]! + around);
    for (let row = Math.max(0, y + runs[k]! - around); row <= Math.min(rows - 1, y + runs[k]! + around); row++)
      for (let w = first >> 5; w <= last >> 5; w++) {
        let bits = -1;
        if (w === last >> 5) bits &= 0xffffffff >>> (31 - (last & 31));
        if (w === first >> 5) bits &= -1 << (first & 31);
        grid[row * words + w]! |= bits;
      }
  }
}

/** Every cell that a piece touches, at a size and turned. */
function maskOf(piece: Piece, size: number, quarters: number, cell: number): Mask {
  const turned = turnedBy(piece, quarters);
  let [x0, x1, y0, y1] = [Infinity, -Infinity, Infinity, -Infinity];
  for (let i = 0; i < turned.length; i += 2) {
    x0 = Math.min(x0, turned[i]!);
    x1 = Math.max(x1, turned[i]!);
    y0 = Math.min(y0, turned[i + 1]!);
    y1 = Math.max(y1, turned[i + 1]!);
  }
  const scale = size / cell;
  const width = Math.max(1, Math.ceil((x1 - x0) * scale - 1e-6));
  const height = Math.max(1, Math.ceil((y1 - y0) * scale - 1e-6));
  const cells = new Uint8Array(width * height);
  const across: [number, number] = [0, 0];
  for (let t = 0; t < turned.length; t += 6) {
    const [ax, ay] = [(turned[t]! - x0) * scale, (turned[t + 1]! - y0) * scale];
    const [bx, by] = [(turned[t + 2]! - x0) * scale, (turned[t + 3]! - y0) * scale];
    const [cx, cy] = [(turned[t + 4]! - x0) * scale, (turned[t + 5]! - y0) * scale];
    const top = Math.max(0, Math.min(height - 1, Math.floor(Math.min(ay, by, cy))));
    const low = Math.max(0, Math.min(height - 1, Math.ceil(Math.max(ay, by, cy)) - 1));
    for (let r = top; r <= Math.max(top, low); r++) {
      across[0] = Infinity;
      across[1] = -Infinity;
      widen(across, r, ax, ay, bx, by);
      widen(across, r, bx, by, cx, cy);
      widen(across, r, cx, cy, ax, ay);
      const first = Math.max(0, Math.min(width - 1, Math.floor(across[0])));
      const last = Math.max(first, Math.min(width - 1, Math.ceil(across[1]) - 1));
      for (let at = r * width + first; at <= r * width + last; at++) cells[at] = 1;
    }
  }
  return { width, height, runs: runsOf(cells, width), x0: x0 * size, y0: y0 * size };
}

function runsOf(cells: Uint8Array, width: number): Int32Array {
  const runs: [number, number, number][] = [];
  for (let i = 0; i < cells.length; i++) {
    if (!cells[i]) continue;
    const [row, first] = [Math.floor(i / width), i % width];
    while (i + 1 < (row + 1) * width && cells[i + 1]) i++;
    runs.push([row, first, i % width]);
  }
  return Int32Array.from(runs.sort((a, b) => b[2] - b[1] - (a[2] - a[1])).flat());
}

/** Widens a span by what of a triangle's side lies between row r and the next. */
function widen(across: [number, number], r: number, px: number, py: number, qx: number, qy: number): void {
  const low = Math.max(r, Math.min(py, qy));
  const high = Math.min(r + 1, Math.max(py, qy));
  if (low > high) return;
  const a = py === qy ? px : px + ((low - py) / (qy - py)) * (qx - px);
  const b = py === qy ? qx : px + ((high - py) / (qy - py)) * (qx - px);
  if (Math.min(a, b) < across[0]) across[0] = Math.min(a, b);
  if (Math.max(a, b) > across[1]) across[1] = Math.max(a, b);
}

/** A place after so many quarters, clockwise where down is positive. */
export function quarter(x: number, y: number, quarters: number): [number, number] {
  const turns = [
    [x, y],
    [-y, x],
    [-x, -y],
    [y, -x],
  ] as const;
  return [...turns[quarters & 3]!];
}

function turnedBy(piece: Piece, quarters: number): Float64Array {
  if (!quarters) return piece;
  const out = new Float64Array(piece.length);
  for (let i = 0; i < piece.length; i += 2) [out[i], out[i + 1]] = quarter(piece[i]!, piece[i + 1]!, quarters) as [number, number];
  return out;
}

function areaOf(p: Piece): number {
  let sum = 0;
  for (let t = 0; t < p.length; t += 6)
    sum += Math.abs((p[t + 2]! - p[t]!) * (p[t + 5]! - p[t + 1]!) - (p[t + 3]! - p[t + 1]!) * (p[t + 4]! - p[t]!)) / 2;
  return sum;
}

function sidesOf(p: Piece): [number, number] {
  let [x0, x1, y0, y1] = [Infinity, -Infinity, Infinity, -Infinity];
  for (let i = 0; i < p.length; i += 2) {
    x0 = Math.min(x0, p[i]!);
    x1 = Math.max(x1, p[i]!);
    y0 = Math.min(y0, p[i + 1]!);
    y1 = Math.max(y1, p[i + 1]!);
  }
  return [x1 - x0, y1 - y0];
}
