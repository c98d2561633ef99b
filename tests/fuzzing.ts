import { readFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import { PhotonImage } from '@cf-wasm/photon/others';
import { strFromU8, strToU8, unzipSync, zipSync } from 'fflate';
import { decodePicture, startPictureDecoder } from '@/core/ground/pictures/decodePicture';
import { FileError } from '@/core/ground/bytes/errors';
import type { NamedFile } from '@/core/ground/bytes/fileKinds';
import { encodePng } from '@/core/ground/pictures/png';
import { readModel } from '@/core/files/formats/readModel';
import { checkMesh } from '@/core/shapes/mesh/checkMesh';
import { stageInFile } from '@/core/files/leaving/stageFile';
import { readPalette, writePalette, type PaletteKind } from '@/core/ground/palettes/paletteFile';
import { handOff } from '@/app/api/hand-off/handOff';
import { readArchive, writeArchive } from '@/data/archive';
import { readStageFile } from '@/data/stageFile';
import { samples } from './samples';
import { strangeDocument } from './strangeDocuments';
import { address, fullKit, packed, sealed, withPlan } from './savedKits';

/** What only a runtime says. */
export const runtimeWords =
  /undefined|null \(|not a function|typed array|call stack|unreachable|\[object|in JSON|Unexpected (token|end)|QuotaExceeded|out of bounds|(Range|Type|Syntax|Reference)Error|not iterable|memory access|\bNaN\b|array length/;

startPictureDecoder(readFileSync(createRequire(import.meta.url).resolve('@cf-wasm/photon/photon.wasm')));
const raster = {
  width: 12,
  height: 9,
  data: Uint8Array.from({ length: 12 * 9 * 4 }, (_, i) => (i % 4 === 3 ? 255 : (i * 37) % 256)),
};
const png = encodePng(raster);
export const goodPicture = png;
const photon = PhotonImage.new_from_byteslice(png);
const pictures = [
  { name: 'a.png', bytes: png },
  { name: 'a.jpg', bytes: photon.get_bytes_jpeg(80) },
  { name: 'a.webp', bytes: photon.get_bytes_webp() },
];
photon.free();
const colors = ['#112233', '#c0ffee', '#804020'].map((color, i) => ({ color, name: `tar ${i}` }));
const palette = (name: string, kind: PaletteKind) => ({ name, bytes: writePalette(kind, colors, 'Skerry') });
const archive = writeArchive(fullKit(), new Map([[address, packed]]));
const planned = writeArchive(withPlan(fullKit()), new Map([[address, packed]]));
const staged = fullKit().kit;
const stage = stageInFile(staged);

interface Format {
  files: NamedFile[];
  read: (file: NamedFile) => unknown;
}
/** Whole small files of every kind that is read, and how. */
const formats: Format[] = [
  { files: samples, read: async (file) => checkMesh((await readModel(file)).mesh) },
  {
    files: pictures,
    read: ({ name, bytes }) => decodePicture(name, bytes),
  },
  {
    files: [
      palette('a.gpl', 'gpl'),
      palette('a.pal', 'pal-text'),
      palette('b.pal', 'pal-riff'),
      palette('a.hex', 'hex'),
      palette('a.css', 'css'),
      palette('a.json', 'tokens'),
      palette('b.png', 'pixels'),
    ],
    read: ({ name, bytes }) => readPalette(name, bytes),
  },
  { files: [{ name: 'a.zip', bytes: archive }], read: ({ name, bytes }) => opened(name, bytes) },
  { files: [{ name: 'plan.zip', bytes: planned }], read: ({ name, bytes }) => handedOff(name, bytes) },
];

/** What is let in leaves again as an archive that opens, and has changed no object but its own. */
async function opened(name: string, bytes: Uint8Array): Promise<void> {
  const { state, blobs } = await readArchive(name, bytes);
  for (const key in {}) throw new Error(`every object has “${key}” now`);
  try {
    await readArchive(name, writeArchive(state, blobs));
  } catch (error) {
    throw new Error(`let in, and not again: ${String(error)}`);
  }
}

/** What the server does: a zip, or a problem in our words. */
async function handedOff(name: string, bytes: Uint8Array): Promise<void> {
  const { told } = await handOff(bytes, '');
  if (!('problem' in told)) return;
  if (told.problem === 'unforeseen') throw new Error('what the server did not foresee');
  throw new FileError(name, told.detail);
}

const all = formats.flatMap((format) => format.files.map((file) => ({ file, format })));

/** Whole numbers below a bound, the same for the same seed. */
export function randomFrom(seed: number): (bound: number) => number {
  return (bound) => {
    seed = (Math.imul(seed, 1664525) + 1013904223) >>> 0;
    return Math.floor((seed / 2 ** 32) * bound);
  };
}

/**
 * A damaged file: bytes changed, cut, doubled, zeroed, or a number in it made another; of an archive also
 * inside, under a whole zip.
 */
export function damaged(seed: number): { file: NamedFile; read: Format['read'] } {
  const random = randomFrom(seed * 2654435761);
  random(2);
  if (!random(4)) return strange(random);
  const { file, format } = all[random(all.length)]!;
  let { bytes } = file;
  if (file.name.endsWith('.zip') && random(4)) {
    const entries = unzipSync(bytes);
    const names = Object.keys(entries);
    const name = names[random(names.length)]!;
    entries[name] = damage(entries[name]!, random);
    if (!random(8)) delete entries[names[random(names.length)]!];
    // With the sums that it had most damage ends there.
    const { 'sums.json': _, ...rest } = entries;
    bytes = random(4) ? sealed(rest) : zipSync(entries);
  } else bytes = damage(bytes, random);
  return { file: { name: file.name, bytes }, read: format.read };
}

/** A whole document that no damage makes: an archive, a plan that is written, or a stage. */
function strange(random: (bound: number) => number): ReturnType<typeof damaged> {
  const kind = random(3);
  const text = (value: unknown) => strToU8(JSON.stringify(value));
  if (kind === 2)
    return {
      file: { name: 'stage.json', bytes: text(strangeDocument(stage, random)) },
      read: ({ name, bytes }) => readStageFile(name, bytes, staged),
    };
  const entries = { ...unzipSync(kind ? planned : archive) };
  const document = JSON.parse(strFromU8(entries['kit.json']!)) as unknown;
  const value = strangeDocument(document, random);
  entries['kit.json'] = text(value);
  // Its colors go along under the name that the model has now.
  const id = (value as { kit?: { models?: { id?: unknown }[] } } | null)?.kit?.models?.[0]?.id;
  if (typeof id === 'string') entries[`seats/${id}.bin`] = entries['seats/mBell.bin']!;
  return { file: { name: 'a.zip', bytes: sealed(entries) }, read: ({ name, bytes }) => (kind ? handedOff : opened)(name, bytes) };
}

const numbers = ['-1', '0', '1e999', '2147483648', '4294967295', '""', '{}', '[]', 'null', '65536', '0.5'];

function damage(bytes: Uint8Array, random: (bound: number) => number): Uint8Array<ArrayBuffer> {
  const out = Uint8Array.from(bytes);
  const at = random(out.length);
  switch (random(6)) {
    case 0:
      return out.slice(0, at);
    case 1:
      return Uint8Array.from([...out.subarray(0, at), ...out.subarray(random(at + 1), at), ...out.subarray(at)]);
    case 2:
      return out.fill(random(2) * 255, at, at + random(16));
    case 3: {
      const text = new TextDecoder('latin1').decode(out);
      const found = [...text.matchAll(/\d+/g)];
      const digits = found[random(found.length || 1)];
      if (!digits) return out;
      const changed = text.slice(0, digits.index) + numbers[random(numbers.length)]! + text.slice(digits.index + digits[0].length);
      return Uint8Array.from(changed, (c) => c.charCodeAt(0));
    }
    default:
      for (let i = random(6) + 1; i > 0; i--) out[random(out.length)] = random(256);
      return out;
  }
}

/** What is wrong with how a damaged file was taken: `null` where it was read, or refused in our words. */
export async function faultOf(seed: number): Promise<string | null> {
  const { file, read } = damaged(seed);
  try {
    await read(file);
    return null;
  } catch (error) {
    if (!(error instanceof FileError)) return `${seed}: ${file.name} ended in ${String(error)}`;
    return runtimeWords.test(error.message) ? `${seed}: a runtime’s words: ${error.message}` : null;
  }
}
