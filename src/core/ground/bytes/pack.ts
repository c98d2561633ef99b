import { sha256 } from '@noble/hashes/sha2.js';

/**
 * A value of plain JSON and typed arrays as bytes: a length, the JSON with each array replaced by where it
 * lies, then the arrays, aligned to 8 bytes, little-endian. The same value always gives the same bytes, so
 * their hash is the value's address.
 */
const kinds = { Float32Array, Uint32Array, Uint16Array, Uint8Array, Int32Array } as const;
type Kind = keyof typeof kinds;
type Numbers = InstanceType<(typeof kinds)[Kind]>;
interface Placed {
  $array: Kind;
  at: number;
  length: number;
}

export function pack(value: unknown): Uint8Array {
  const arrays: { data: Numbers; at: number }[] = [];
  let size = 0;
  const json = JSON.stringify(value, (_, v: unknown) => {
    const kind = kindOf(v);
    if (!kind) return v;
    const data = v as Numbers;
    const at = size;
    arrays.push({ data, at });
    size = align(size + data.byteLength);
    return { $array: kind, at, length: data.length } satisfies Placed;
  });
  const text = new TextEncoder().encode(json);
  const base = align(4 + text.length);
  const out = new Uint8Array(base + size);
  new DataView(out.buffer).setUint32(0, text.length, true);
  out.set(text, 4);
  for (const { data, at } of arrays) out.set(new Uint8Array(data.buffer, data.byteOffset, data.byteLength), base + at);
  return out;
}

/** Throws where the bytes are not what `pack` makes. */
export function unpack(bytes: Uint8Array): unknown {
  const broken = () => new Error('Packed data is broken.');
  if (bytes.length < 4) throw broken();
  const length = new DataView(bytes.buffer, bytes.byteOffset).getUint32(0, true);
  if (4 + length > bytes.length) throw broken();
  const base = align(4 + length);
  return JSON.parse(new TextDecoder().decode(bytes.subarray(4, 4 + length)), (_, v: unknown) => {
    if (typeof v !== 'object' || v === null || !('$array' in v)) return v;
    const { $array, at, length: count } = v as Placed;
    const make = Object.hasOwn(kinds, $array) ? kinds[$array] : undefined;
    if (!make || !Number.isSafeInteger(at) || !Number.isSafeInteger(count) || at < 0 || count < 0) throw broken();
    const end = base + at + count * make.BYTES_PER_ELEMENT;
    if (end > bytes.length) throw broken();
    return new make(bytes.slice(base + at, end).buffer);
  });
}

/** Where the arrays of packed bytes lie, by the keys that lead to them (`a.0.b`), in the order in which they lie; `size` in bytes. */
export function arraysIn(bytes: Uint8Array): { name: string; kind: Kind; at: number; length: number; size: number }[] {
  const textLength = new DataView(bytes.buffer, bytes.byteOffset).getUint32(0, true);
  const base = align(4 + textLength);
  const out: ReturnType<typeof arraysIn> = [];
  const look = (value: unknown, name: string): void => {
    if (typeof value !== 'object' || value === null) return;
    if ('$array' in value) {
      const { $array: kind, at, length } = value as Placed;
      out.push({ name, kind, at: base + at, length, size: length * kinds[kind].BYTES_PER_ELEMENT });
    } else for (const [key, inner] of Object.entries(value)) look(inner, name ? `${name}.${key}` : key);
  };
  look(JSON.parse(new TextDecoder().decode(bytes.subarray(4, 4 + textLength))), '');
  return out;
}

const align = (n: number) => (n + 7) & ~7;

function kindOf(value: unknown): Kind | null {
  if (!ArrayBuffer.isView(value)) return null;
  for (const kind of Object.keys(kinds) as Kind[]) if (value instanceof kinds[kind]) return kind;
  return null;
}

/**
 * The content address of bytes: the first 32 hex digits of their SHA-256. A page that came over plain http
 * has no digest of the browser's (4 times as fast).
 */
export async function contentAddress(bytes: Uint8Array): Promise<string> {
  const { subtle } = crypto as { subtle?: SubtleCrypto };
  return subtle ? firstDigits(new Uint8Array(await subtle.digest('SHA-256', bytes as Uint8Array<ArrayBuffer>))) : addressNow(bytes);
}

/** The same at once, for a few bytes. */
export const addressNow = (bytes: Uint8Array): string => firstDigits(sha256(bytes));

const firstDigits = (digest: Uint8Array): string => Array.from(digest.subarray(0, 16), (b) => b.toString(16).padStart(2, '0')).join('');
