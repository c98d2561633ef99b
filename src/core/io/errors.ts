/** A file that cannot be read, in words for the artist: which file, where in it, what is wrong. */
export class FileError extends Error {
  constructor(
    readonly file: string,
    readonly problem: string,
    /** "line 12", "chunk 2 at byte 340", … */
    readonly where?: string,
  ) {
    super(where ? `${file}, ${where}: ${problem}` : `${file}: ${problem}`);
    this.name = 'FileError';
  }
}

export const limits = { bytes: 150 * 1024 * 1024, faces: 3_000_000 } as const;

export function checkFaceLimit(file: string, faces: number): void {
  if (faces > limits.faces)
    throw new FileError(file, `more than ${limits.faces.toLocaleString('en')} faces. Split the model, or reduce it first.`);
}

export interface ReadContext {
  /** 0..1, and what is going on. Called rarely. */
  onProgress?: (share: number, doing: string) => void;
}
