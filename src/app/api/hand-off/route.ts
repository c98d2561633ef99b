import { served } from '@/core/ground/limits';
import { workApart, type Ended } from './workApart';

/** Archives that are being read, and worked on; whoever comes when there are enough is sent away for a moment. */
let [reading, working] = [0, 0];
const mostReading = served.atOnce * 2;

/**
 * `POST /api/hand-off?plan=NAME` with a kit's archive as the body answers with the zip that the plan writes, or
 * with a problem in JSON (RFC 9457). Nothing is kept; the work is done apart (`workApart`).
 */
export async function POST(request: Request): Promise<Response> {
  const type = request.headers.get('content-type') ?? '';
  if (/^multipart\/form-data/i.test(type))
    return problem(415, 'form', `A form cannot be taken. ${howToSend}`, { Accept: 'application/zip' });
  if (Number(request.headers.get('content-length') ?? 0) > served.bytes) return problem(413, 'too-large', tooLarge);
  if (reading >= mostReading || working >= served.atOnce) return busy();
  reading++;
  const bytes = await bodyOf(request).finally(() => reading--);
  if (bytes === 'too-large') return problem(413, 'too-large', tooLarge);
  if (bytes === 'silent')
    return problem(
      408,
      'silent',
      `The archive did not come: send it within ${served.reading / 1000} seconds, without a pause of ${served.silence / 1000}.`,
    );
  if (!bytes.length) return problem(400, 'empty', howToSend);
  if (working >= served.atOnce) return busy();
  working++;
  const plan = new URL(request.url).searchParams.get('plan') ?? '';
  const { told, zip } = await workApart(bytes, plan, request.signal, () => working--);
  if ('ended' in told) return problem(...endings[told.ended]);
  if ('problem' in told) {
    const { problem: kind, detail, pointer } = told;
    return problem(kind === 'unforeseen' ? 500 : 422, kind, detail, {}, pointer);
  }
  return new Response(zip, {
    headers: {
      'Content-Type': 'application/zip',
      'Content-Disposition': 'attachment; filename="hand-off.zip"',
      'X-Files': String(told.files),
      'X-Models-Left-Out': String(told.leftOut),
    },
  });
}

const refused = (): Response => problem(405, 'method', `Ask with POST. ${howToSend}`, { Allow: 'POST' });
export { refused as GET, refused as HEAD, refused as PUT, refused as PATCH, refused as DELETE, refused as OPTIONS };

const howToSend =
  'Send the kit’s archive itself as the body of the request: curl --data-binary @KIT.oligochrome.zip "…/api/hand-off?plan=NAME".';
const tooLarge = `An archive may have up to ${served.bytes / 1024 / 1024} MB.`;
const busy = (): Response => problem(503, 'busy', 'Too much is asked at once. Try again in a moment.', { 'Retry-After': '5' });

const endings: Record<Ended, [status: number, kind: string, detail: string]> = {
  late: [503, 'too-long', `This took more than ${served.work / 1000} seconds and was given up.`],
  memory: [422, 'too-large', `This takes more than ${served.memory / 1024 ** 3} GB of memory and was given up. Hand it off in parts.`],
  crashed: [500, 'unforeseen', 'The work ended before it was done. Nothing was written.'],
  missing: [500, 'not-built', 'The server was not built whole. Run npm run build, and start it again.'],
};

/** The body, unless it is larger than what is taken, or does not come: then it is not read to its end. */
async function bodyOf(request: Request): Promise<Uint8Array | 'too-large' | 'silent'> {
  const end = Date.now() + served.reading;
  const reader = request.body?.getReader();
  if (!reader) return new Uint8Array();
  const chunks: Uint8Array[] = [];
  let length = 0;
  for (;;) {
    const next = await within(reader.read(), Math.min(served.silence, end - Date.now()));
    if (next && !next.done) {
      length += next.value.length;
      chunks.push(next.value);
    }
    if (next?.done) return new Uint8Array(Buffer.concat(chunks));
    if (next && length <= served.bytes) continue;
    void reader.cancel().catch(() => undefined);
    return next ? 'too-large' : 'silent';
  }
}

/** What comes within so many milliseconds, else `null`. */
function within<T>(promise: Promise<T>, milliseconds: number): Promise<T | null> {
  let timer: ReturnType<typeof setTimeout>;
  const late = new Promise<null>((resolve) => (timer = setTimeout(() => resolve(null), Math.max(0, milliseconds))));
  return Promise.race([promise, late]).finally(() => clearTimeout(timer));
}

function problem(status: number, kind: string, detail: string, headers: HeadersInit = {}, pointer?: string): Response {
  const body = { type: `urn:oligochrome:problem:${kind}`, title: titles.get(status), status, detail, ...(pointer && { pointer }) };
  return new Response(JSON.stringify(body), { status, headers: { 'Content-Type': 'application/problem+json', ...headers } });
}

const titles = new Map([
  [400, 'Nothing was sent'],
  [405, 'This is not how to ask'],
  [408, 'Nothing came'],
  [413, 'The archive is too large'],
  [415, 'This is not an archive'],
  [422, 'It cannot be handed off'],
  [500, 'Something went wrong'],
  [503, 'Not now'],
]);
