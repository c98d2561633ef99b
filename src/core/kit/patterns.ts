import type { Point3 } from './laying/gradientRules';

/** A small tile of steps along whatever ramp is there: `-` one darker, `+` one lighter, `0` what is there stays. */
export interface Motif {
  id: string;
  name: string;
  /** Rows from the top, all of one length: 1 to 16 each way. */
  rows: string[];
  /** Texels by which each row of tiles lies farther right than the one above it. */
  shift?: number;
  /** Texels by which rows of tiles lie over each other, every second one over its neighbours; fewer than there are rows. */
  overlap?: number;
}

/** What texels become by where they lie, so that strokes join and a repeated one changes nothing. */
export type Pattern =
  /** Steps at random, up to so many either way along the ramp of a cell. */
  | { kind: 'noise'; cell: number; within: number; seed: number }
  /** Cells at random, each as often as its weight has it. */
  | { kind: 'mix'; among: { cell: number; weight: number }[]; seed: number }
  /**
   * From one cell to another, at a share of the texels, 0..1, spread evenly over squares of `grid` texels; where both are
   * steps of one ramp, through the steps between them. `line`: the share grows from its first point to its second (metres).
   */
  | { kind: 'ordered'; from: number; to: number; share: number; grid: 2 | 4 | 8; line?: readonly [Point3, Point3] }
  /** Steps of a motif around a cell; 0: around what is there. */
  | { kind: 'motif'; motif: Motif; cell: number };

/** What of a motif does not hold together by itself; `null` where all does. */
export function problemOfMotif({ rows, overlap = 0 }: Motif): string | null {
  if (rows.some((r) => r.length !== rows[0]!.length)) return 'the rows of a motif are not of one length';
  if (overlap >= rows.length) return 'the rows of a motif lie over each other by more than it is high';
  return null;
}

/** The cells of which a pattern speaks; 0 among them is what is there. */
export function cellsOfPattern(pattern: Pattern): number[] {
  switch (pattern.kind) {
    case 'noise':
      return [pattern.cell];
    case 'mix':
      return pattern.among.map((a) => a.cell);
    case 'ordered':
      return [pattern.from, pattern.to];
    case 'motif':
      return pattern.cell ? [pattern.cell] : [];
  }
}

/** The pattern with other cells; `null` where one of them has none. */
export function patternAfter(pattern: Pattern, cell: (id: number) => number): Pattern | null {
  const cells = cellsOfPattern(pattern);
  if (cells.every((id) => cell(id) === id)) return pattern;
  if (cells.some((id) => !cell(id))) return null;
  switch (pattern.kind) {
    case 'mix':
      return { ...pattern, among: pattern.among.map((a) => ({ ...a, cell: cell(a.cell) })) };
    case 'ordered':
      return { ...pattern, from: cell(pattern.from), to: cell(pattern.to) };
    default:
      return { ...pattern, cell: cell(pattern.cell) };
  }
}
