/** Text of a file as UTF-8 bytes: UTF-16 with a byte order mark is converted, a UTF-8 mark is dropped. */
export function utf8Bytes(bytes: Uint8Array): Uint8Array {
  if (bytes[0] === 0xff && bytes[1] === 0xfe) return new TextEncoder().encode(new TextDecoder('utf-16le').decode(bytes.subarray(2)));
  if (bytes[0] === 0xfe && bytes[1] === 0xff) {
    const swapped = bytes.slice(2);
    for (let i = 0; i + 1 < swapped.length; i += 2) [swapped[i], swapped[i + 1]] = [swapped[i + 1]!, swapped[i]!];
    return new TextEncoder().encode(new TextDecoder('utf-16le').decode(swapped));
  }
  return bytes[0] === 0xef && bytes[1] === 0xbb && bytes[2] === 0xbf ? bytes.subarray(3) : bytes;
}

const strict = new TextDecoder('utf-8', { fatal: true });
const western = new TextDecoder('windows-1252');

/** A name in UTF-8, or in the Western encoding that older tools wrote. */
export function decodeName(bytes: Uint8Array): string {
  try {
    return strict.decode(bytes);
  } catch {
    return western.decode(bytes);
  }
}

/** The last piece of a path with either kind of slash. */
export const baseName = (path: string): string => path.split(/[\\/]/).at(-1)!;
export const stemOf = (path: string): string => baseName(path).replace(/\.[^.]+$/, '');
export const extensionOf = (path: string): string => (/\.([^.\\/]+)$/.exec(path)?.[1] ?? '').toLowerCase();

const powersOfTen = Float64Array.from({ length: 23 }, (_, i) => 10 ** i);

/**
 * Reads numbers and words out of text bytes without making strings.
 *
 * A decimal of at most 15 significant digits and a power of ten of at most 22 is exact in one multiplication
 * or division (Clinger, 1990); others go through `Number`.
 */
export class Scanner {
  constructor(
    readonly bytes: Uint8Array,
    public at = 0,
    public end = bytes.length,
  ) {}

  /** Skips blanks within the line. A backslash at the end of a line continues it. */
  skipBlanks(): void {
    const { bytes, end } = this;
    for (;;) {
      const b = bytes[this.at]!;
      if (this.at >= end) return;
      if (b === 32 || b === 9) this.at++;
      else if (b === 92 && (bytes[this.at + 1] === 10 || bytes[this.at + 1] === 13)) {
        this.at += bytes[this.at + 1] === 13 && bytes[this.at + 2] === 10 ? 3 : 2;
      } else return;
    }
  }

  skipSpace(): void {
    while (this.at < this.end && this.bytes[this.at]! <= 32) this.at++;
  }

  atLineEnd(): boolean {
    const b = this.bytes[this.at];
    return this.at >= this.end || b === 10 || b === 13 || b === 35;
  }

  nextLine(): void {
    const { bytes, end } = this;
    while (this.at < end) {
      const b = bytes[this.at]!;
      if (b === 92 && (bytes[this.at + 1] === 10 || bytes[this.at + 1] === 13)) {
        this.at += bytes[this.at + 1] === 13 && bytes[this.at + 2] === 10 ? 3 : 2;
        continue;
      }
      this.at++;
      if (b === 10) return;
      if (b === 13) {
        if (bytes[this.at] === 10) this.at++;
        return;
      }
    }
  }

  /** The rest of the line, trimmed. */
  restOfLine(): Uint8Array {
    this.skipBlanks();
    const start = this.at;
    while (this.at < this.end && this.bytes[this.at] !== 10 && this.bytes[this.at] !== 13) this.at++;
    let end = this.at;
    while (end > start && this.bytes[end - 1]! <= 32) end--;
    return this.bytes.subarray(start, end);
  }

  /** A word up to the next space; empty at the end of a line. */
  word(): string {
    this.skipBlanks();
    const start = this.at;
    while (this.at < this.end && this.bytes[this.at]! > 32) this.at++;
    let word = '';
    for (let i = start; i < this.at; i++) word += String.fromCharCode(this.bytes[i]!);
    return word;
  }

  /** An integer; NaN where none stands here. */
  integer(): number {
    const { bytes } = this;
    let at = this.at;
    let negative = false;
    if (bytes[at] === 45 || bytes[at] === 43) negative = bytes[at++] === 45;
    const start = at;
    let value = 0;
    for (let d = bytes[at]! - 48; at < this.end && d >= 0 && d <= 9; d = bytes[++at]! - 48) value = value * 10 + d;
    if (at === start) return NaN;
    this.at = at;
    return negative ? -value : value;
  }

  /**
   * A decimal number with an optional exponent, or inf and nan as some writers spell them; `undefined` where
   * no number stands here.
   */
  number(): number | undefined {
    this.skipBlanks();
    const { bytes, end } = this;
    const start = this.at;
    let at = start;
    let negative = false;
    if (bytes[at] === 45 || bytes[at] === 43) negative = bytes[at++] === 45;
    let mantissa = 0;
    let digits = 0;
    let exponent = 0;
    let seen = false;
    for (let d = bytes[at]! - 48; at < end && d >= 0 && d <= 9; d = bytes[++at]! - 48) {
      seen = true;
      mantissa = mantissa * 10 + d;
      if (mantissa > 0) digits++;
    }
    if (at < end && bytes[at] === 46) {
      at++;
      for (let d = bytes[at]! - 48; at < end && d >= 0 && d <= 9; d = bytes[++at]! - 48) {
        seen = true;
        mantissa = mantissa * 10 + d;
        exponent--;
        if (mantissa > 0) digits++;
      }
    }
    if (!seen) return this.unusualNumber();
    if (at < end && (bytes[at] === 101 || bytes[at] === 69)) {
      let e = at + 1;
      let down = false;
      if (bytes[e] === 45 || bytes[e] === 43) down = bytes[e++] === 45;
      const first = e;
      let power = 0;
      for (let d = bytes[e]! - 48; e < end && d >= 0 && d <= 9; d = bytes[++e]! - 48) power = power * 10 + d;
      if (e > first) {
        exponent += down ? -power : power;
        at = e;
      }
    }
    this.at = at;
    if (digits > 15 || exponent < -22 || exponent > 22) return Number(this.ascii(start, at));
    const value = exponent < 0 ? mantissa / powersOfTen[-exponent]! : mantissa * powersOfTen[exponent]!;
    return negative ? -value : value;
  }

  private unusualNumber(): number | undefined {
    const start = this.at;
    let end = start;
    while (end < this.end && this.bytes[end]! > 32) end++;
    const word = this.ascii(start, Math.min(end, start + 16)).toLowerCase();
    if (!/^[-+]?(nan|inf|infinity|1\.#|nan\()/.test(word)) return undefined;
    this.at = end;
    return word.includes('inf') ? (word.startsWith('-') ? -Infinity : Infinity) : NaN;
  }

  private ascii(start: number, end: number): string {
    let text = '';
    for (let i = start; i < end; i++) text += String.fromCharCode(this.bytes[i]!);
    return text;
  }

  /** "line 12" for a byte offset, for errors. */
  lineAt(offset = this.at): string {
    let line = 1;
    for (let i = 0; i < Math.min(offset, this.bytes.length); i++) {
      const b = this.bytes[i];
      if (b === 10 || (b === 13 && this.bytes[i + 1] !== 10)) line++;
    }
    return `line ${line}`;
  }
}
