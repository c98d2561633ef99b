import { readFile } from 'node:fs/promises';
import { join } from 'node:path';
import { startPictureDecoder } from '@/core/io/decodePicture';
import { FileError } from '@/core/io/errors';
import type { GltfCodecs } from '@/core/io/gltf/openGltf';
import { zipParts } from '@/core/io/zip';
import { isRuntimeError, wordsOf } from '@/core/wordsOf';
import { handOffArchive } from '@/data/handOffArchive';
import { neverSeen } from '@/workers/rays';

/** An archive has at most this many bytes, and its plan this many milliseconds. */
const mostBytes = 128 * 1024 * 1024;
const mostTime = 60_000;
/** Asked at once; whoever comes then is sent away for a moment. */
const mostAtOnce = 2;
let underway = 0;

/**
 * `POST /api/hand-off?plan=NAME` with a kit's archive as the body answers with the zip that the plan writes, or
 * with a problem in JSON (RFC 9457). Nothing is kept.
 */
export async function POST(request: Request): Promise<Response> {
  if (underway >= mostAtOnce)
    return problem(503, 'busy', 'Too much is asked at once. Try again in a moment.', undefined, { 'Retry-After': '5' });
  underway++;
  try {
    const plan = new URL(request.url).searchParams.get('plan') ?? '';
    const end = Date.now() + mostTime;
    const bytes = await bodyOf(request, end);
    if (!bytes) return problem(413, 'too-large', `An archive may have up to ${mostBytes / 1024 / 1024} MB.`);
    if (!bytes.length) return problem(400, 'empty', 'Send the kit’s archive as the body of the request.');
    await startPictures();
    const { files, report, leftOut } = await handOffArchive('archive.zip', bytes, plan, { codecs, unseenOf: neverSeen }, () => {
      if (Date.now() > end) throw new Late();
    });
    return new Response(streamOf(zipParts(files)), {
      headers: {
        'Content-Type': 'application/zip',
        'Content-Disposition': 'attachment; filename="hand-off.zip"',
        'X-Files': String(report.files.length),
        'X-Models-Left-Out': String(leftOut.length),
      },
    });
  } catch (error) {
    if (error instanceof Late) return problem(503, 'too-long', `This took more than ${mostTime / 1000} seconds and was given up.`);
    if (error instanceof FileError) return problem(422, 'archive', error.message, error.where);
    if (!isRuntimeError(error)) return problem(422, 'plan', wordsOf(error));
    console.error(error);
    return problem(500, 'unforeseen', wordsOf(error));
  } finally {
    underway--;
  }
}

/** Parts as they are asked for; whoever takes them too slowly is cut off. */
function streamOf(parts: Generator<Uint8Array>): ReadableStream<Uint8Array> {
  const end = Date.now() + mostTime;
  return new ReadableStream({
    pull(controller) {
      if (Date.now() > end) return controller.error(new Late());
      const { done, value } = parts.next();
      if (done) controller.close();
      else controller.enqueue(value);
    },
  });
}

class Late extends Error {}

/** The body, unless it is larger than what is taken: then it is not read to its end. */
async function bodyOf(request: Request, end: number): Promise<Uint8Array | null> {
  if (Number(request.headers.get('content-length') ?? 0) > mostBytes) return null;
  const chunks: Uint8Array[] = [];
  let length = 0;
  const reader = request.body?.getReader();
  for (let next = await reader?.read(); next && !next.done; next = await reader!.read()) {
    if (Date.now() > end) throw new Late();
    length += next.value.length;
    if (length > mostBytes) {
      await reader!.cancel();
      return null;
    }
    chunks.push(next.value);
  }
  return new Uint8Array(Buffer.concat(chunks));
}

function problem(status: number, kind: string, detail: string, pointer?: string, headers: Record<string, string> = {}): Response {
  const titles: Record<number, string> = {
    400: 'Nothing was sent',
    413: 'The archive is too large',
    422: 'It cannot be handed off',
    500: 'Something went wrong',
    503: 'Not now',
  };
  const body = { type: `urn:oligochrome:problem:${kind}`, title: titles[status], status, detail, ...(pointer && { pointer }) };
  return new Response(JSON.stringify(body), { status, headers: { 'Content-Type': 'application/problem+json', ...headers } });
}

let isStarted = false;
async function startPictures(): Promise<void> {
  if (isStarted) return;
  startPictureDecoder(new Uint8Array(await readFile(join(process.cwd(), 'public/codecs/pictures.wasm'))));
  isStarted = true;
}

const codecs: GltfCodecs = {
  draco: async () => {
    const { default: createDecoder } = await import('draco3dgltf/draco_decoder_gltf_nodejs.js');
    const wasm = await readFile(join(process.cwd(), 'public/codecs/draco_decoder_gltf.wasm'));
    return createDecoder({ wasmBinary: new Uint8Array(wasm).buffer });
  },
};
