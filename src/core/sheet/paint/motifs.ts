import type { Motif } from '../../kit/patterns';

/** Motifs that come along; each is changed as a copy in the kit. */
export const startMotifs: readonly Motif[] = [
  {
    id: 'shingles',
    name: 'shingles',
    rows: ['+++++++-', '0000000-', '0000000-', '-00000--', '--------'],
    shift: 4,
  },
  {
    id: 'planks',
    name: 'planks',
    rows: ['+++++++++++-', '0000-00000+-', '00000000000-', '------------'],
    shift: 5,
  },
  {
    id: 'hair',
    name: 'hair',
    rows: ['0+00-0', '-+00-+', '-+0-0+', '-0+-0+', '00+-00', '0-+0+0', '+-00+-', '+-00+-'],
    shift: 3,
    overlap: 2,
  },
  {
    id: 'rope',
    name: 'rope',
    rows: ['-0++0', '0++0-', '++0-0', '+0-0+', '0-0++'],
  },
];

/** A remainder that is never below 0. */
const within = (v: number, size: number): number => ((v % size) + size) % size;

/**
 * The step of a motif at a column and row, from where its first tile lies: -1 darker, 1 lighter, 0 none. Rows of tiles are
 * shifted one against the other; where they lie over each other, every second one lies above, and what is under it
 * shows where it has no step.
 */
export function stepAt({ rows, shift = 0, overlap = 0 }: Pick<Motif, 'rows' | 'shift' | 'overlap'>, x: number, y: number): -1 | 0 | 1 {
  const [width, height] = [rows[0]!.length, rows.length];
  const pitch = height - overlap;
  const last = Math.floor(y / pitch);
  const first = Math.ceil((y - height + 1) / pitch);
  for (const above of [0, 1])
    for (let row = last; row >= first; row--) {
      if (within(row, 2) !== above) continue;
      const step = rows[y - row * pitch]![within(x - row * shift, width)];
      if (step !== '0') return step === '+' ? 1 : -1;
    }
  return 0;
}

/**
 * The texels, as column and row from the first tile, that the tile at a place covers: the one under a texel. Of rows that lie
 * over each other the upper one that reaches there.
 */
export function tileUnder(
  { rows, shift = 0, overlap = 0 }: Pick<Motif, 'rows' | 'shift' | 'overlap'>,
  x: number,
  y: number,
): { x: number; y: number; w: number; h: number } {
  const [w, h] = [rows[0]!.length, rows.length];
  const row = Math.floor(y / (h - overlap));
  return { x: x - within(x - row * shift, w), y: row * (h - overlap), w, h };
}

/** A motif with more or fewer texels: what is new has no step. */
export function resizedMotif(motif: Motif, width: number, height: number): Motif {
  const rows = Array.from({ length: height }, (_, y) => (motif.rows[y] ?? '').slice(0, width).padEnd(width, '0'));
  return { ...motif, rows, ...(motif.overlap && { overlap: Math.min(motif.overlap, height - 1) }) };
}

/** A motif whose texels, as column and row, have a step; the same where nothing changes. */
export function withStep(motif: Motif, texels: Iterable<readonly [x: number, y: number]>, step: '-' | '0' | '+'): Motif {
  const rows = motif.rows.map((r) => [...r]);
  for (const [x, y] of texels) if (rows[y]?.[x] !== undefined) rows[y][x] = step;
  const after = rows.map((r) => r.join(''));
  return after.every((r, y) => r === motif.rows[y]) ? motif : { ...motif, rows: after };
}

/** Whether a motif would change nothing of what is there. */
export const isEmptyMotif = ({ rows }: Pick<Motif, 'rows'>): boolean => rows.every((r) => /^0*$/.test(r));
