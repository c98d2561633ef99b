import { readFileSync } from 'node:fs';
import { readFile } from 'node:fs/promises';
import { join } from 'node:path';
import { startPictureDecoder } from '@/core/ground/pictures/decodePicture';
import { FileError } from '@/core/ground/bytes/errors';
import type { NamedFile } from '@/core/ground/bytes/fileKinds';
import type { GltfCodecs } from '@/core/files/gltf/openGltf';
import { isRuntimeError, wordsOf } from '@/core/ground/wordsOf';
import { handOffArchive } from '@/data/handOffArchive';
import { neverSeen } from '@/workers/rays';

/** What came of it. */
export type Told =
  { files: number; leftOut: number } | { problem: 'archive' | 'plan' | 'unforeseen'; detail: string; pointer?: string | undefined };

/** A plan of an archive, written; what is wrong is told in our words. */
export async function handOff(bytes: Uint8Array, plan: string): Promise<{ told: Told; files: NamedFile[] }> {
  try {
    startPictures();
    const { files, report, leftOut } = await handOffArchive('archive.zip', bytes, plan, { codecs, unseenOf: neverSeen });
    return { told: { files: report.files.length, leftOut: leftOut.length }, files };
  } catch (error) {
    if (error instanceof FileError) return { told: { problem: 'archive', detail: error.message, pointer: error.where }, files: [] };
    if (!isRuntimeError(error)) return { told: { problem: 'plan', detail: wordsOf(error) }, files: [] };
    console.error(error);
    return { told: { problem: 'unforeseen', detail: wordsOf(error) }, files: [] };
  }
}

let isStarted = false;
function startPictures(): void {
  if (!isStarted) startPictureDecoder(new Uint8Array(readFileSync(join(process.cwd(), 'public/codecs/pictures.wasm'))));
  isStarted = true;
}

const codecs: GltfCodecs = {
  draco: async () => {
    const { default: createDecoder } = await import('draco3dgltf/draco_decoder_gltf_nodejs.js');
    const wasm = await readFile(join(process.cwd(), 'public/codecs/draco_decoder_gltf.wasm'));
    return createDecoder({ wasmBinary: new Uint8Array(wasm).buffer });
  },
};
