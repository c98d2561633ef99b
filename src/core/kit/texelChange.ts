/** Texels that show other cells, told in whichever way is smaller. */
export type TexelChange = TexelSpans | TexelStretch;

/** Spans of 4 numbers (first texel, count, cell before, cell after), row by row, ascending and disjoint. */
export interface TexelSpans {
  spans: Uint32Array;
}

/** Each texel from the first on, row by row, as where neighbours differ; what stays is the same before and after. */
export interface TexelStretch {
  first: number;
  before: Uint16Array;
  after: Uint16Array;
}

/** Tells the runs of texels that a change is about, ascending: from which, how many, and what they showed and show. */
export function eachRun(change: TexelChange, tell: (from: number, count: number, before: number, after: number) => void): void {
  if ('spans' in change) {
    const { spans } = change;
    for (let i = 0; i < spans.length; i += 4) tell(spans[i]!, spans[i + 1]!, spans[i + 2]!, spans[i + 3]!);
    return;
  }
  const { first, before, after } = change;
  for (let i = 0; i < after.length; i++) if (before[i] !== after[i]) tell(first + i, 1, before[i]!, after[i]!);
}
