import { limits } from '../limits';
import { isRuntimeError } from '../wordsOf';

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

/**
 * What a reader threw, as a `FileError`: one that names the file already stays; what else has words of ours
 * or of a format's package is put behind `problem`; and the words of a runtime ("undefined", "unreachable",
 * "call stack") are kept from the artist, to whom they say nothing.
 */
export function fileErrorOf(file: string, error: unknown, problem: string, where?: string): FileError {
  if (error instanceof FileError) return error;
  const advice = 'Its contents do not fit together: it may be damaged, or cut short. Export it again, and try that.';
  return new FileError(
    file,
    isRuntimeError(error) || /undefined|\[object/.test((error as Error).message)
      ? `${problem}. ${advice}`
      : `${problem} (${(error as Error).message}).`,
    where,
  );
}

/** What JSON says. Throws `FileError`, which names the line. */
export function parseJson(file: string, text: string, problem: string, where?: string): unknown {
  try {
    return JSON.parse(text);
  } catch {
    const at = text.length < 1 << 20 ? ` at line ${text.slice(0, brokenAt(text)).split('\n').length}` : '';
    throw new FileError(file, `${problem}: its JSON is broken${at}. It may be damaged, or cut short.`, where);
  }
}

/**
 * How much of a broken JSON text is good: runtimes say it in ways of their own or not at all, but all tell a
 * text that only ends too early.
 */
export function brokenAt(text: string): number {
  const isGood = (length: number): boolean => {
    try {
      JSON.parse(text.slice(0, length));
      return true;
    } catch (error) {
      const { message } = error as Error;
      // Some tell what they expected there, and that it was at the end.
      return /end of|unterminated/i.test(message) || /position (\d+)/.exec(message)?.[1] === String(length);
    }
  };
  let [good, bad] = [0, text.length + 1];
  while (bad - good > 1) {
    const middle = (good + bad) >> 1;
    if (isGood(middle)) good = middle;
    else bad = middle;
  }
  return good;
}

const many = (n: number): string => n.toLocaleString('en');

/** Throws `FileError` where a file has more faces than can be read. */
export function checkFaceLimit(file: string, faces: number): void {
  if (faces > limits.faces) throw new FileError(file, `more than ${many(limits.faces)} faces. Split the model, or reduce it first.`);
}

/**
 * Throws `FileError` on faces with so many corners that cutting them into triangles could take for ever.
 * `faceStart`: first corner of each face, and the end.
 */
export function checkCornerLimits(file: string, faceStart: Uint32Array): void {
  let squares = 0;
  for (let f = 0; f + 1 < faceStart.length; f++) {
    const corners = faceStart[f + 1]! - faceStart[f]!;
    if (corners > limits.corners)
      throw new FileError(
        file,
        `it has ${many(corners)} corners; faces of up to ${many(limits.corners)} are read. Cut it into smaller ones.`,
        `face ${f + 1}`,
      );
    if (corners > 256) squares += corners * corners;
  }
  if (squares > limits.cornersSquared)
    throw new FileError(file, 'too many of its faces have hundreds of corners. Cut them into smaller ones.');
}

export interface ReadContext {
  /** 0..1, and what is going on. Called rarely. */
  onProgress?: (share: number, doing: string) => void;
}
