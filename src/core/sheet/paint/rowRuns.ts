/** From so many numbers on copying them natively is the quicker way. */
const fewToCopy = 16;

/** Texels of an art, row by row, as runs of such as follow one another in their row: what is done with millions is done run by run. */
export class RowRuns {
  /** Ascending, each once. */
  readonly texels: Uint32Array;
  /** Of each run the index of its first texel; last the number of all. */
  private readonly starts: number[] = [];

  constructor(texels: Uint32Array, width: number) {
    this.texels = this.find(texels, width) ? texels : Uint32Array.from(new Set(texels)).sort();
    if (this.texels !== texels) this.find(this.texels, width);
  }

  /** Whether they were in order. */
  private find(texels: Uint32Array, width: number): boolean {
    this.starts.length = 0;
    for (let i = 0; i < texels.length;) {
      const [start, first] = [i, texels[i]!];
      if (i && first <= texels[i - 1]!) return false;
      this.starts.push(start);
      const most = Math.min(texels.length, start + width - (first % width));
      do i++;
      while (i < most && texels[i] === first + i - start);
    }
    this.starts.push(texels.length);
    return true;
  }

  /** Tells of each run the index of its first texel, that after its last one, and the first texel. */
  each(tell: (from: number, to: number, first: number) => void): void {
    for (let r = 1; r < this.starts.length; r++) tell(this.starts[r - 1]!, this.starts[r]!, this.texels[this.starts[r - 1]!]!);
  }

  /** What stands under the texels, one after the other. */
  from(cells: Uint16Array): Uint16Array {
    const out = new Uint16Array(this.texels.length);
    this.each((from, to, first) => {
      if (to - from >= fewToCopy) out.set(cells.subarray(first, first + to - from), from);
      else for (let i = from; i < to; i++) out[i] = cells[first + i - from]!;
    });
    return out;
  }

  /** Puts values, one after the other, under the texels; `origin`: the texel at which the target begins. */
  put(values: Uint16Array, target: Uint16Array, origin: number): void {
    this.each((from, to, first) => {
      if (to - from >= fewToCopy) target.set(values.subarray(from, to), first - origin);
      else for (let i = from; i < to; i++) target[first - origin + i - from] = values[i]!;
    });
  }
}
