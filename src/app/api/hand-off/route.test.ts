import { unzipSync } from 'fflate';
import { beforeAll, describe, expect, it, vi } from 'vitest';
import { bundleWork } from '../../../../scripts/bundleWork.mjs';
import { plannedFiles } from '@/core/files/handoff/tree';
import { writeArchive } from '@/data/archive';
import { address, packed, someKit, withPlan } from '@tests/savedKits';
import { GET, POST } from './route';
import { served } from '@/core/ground/limits';
import { workApart } from './workApart';

const kit = withPlan(someKit());
const archive = writeArchive(kit, new Map([[address, packed]]));
const ask = (body: Uint8Array | null, query = '', headers: Record<string, string> = {}) =>
  POST(new Request(`http://skerry.test/api/hand-off${query}`, { method: 'POST', headers, ...(body && { body: body.slice() }) }));
const problemOf = async (response: Response) => {
  expect(response.headers.get('content-type')).toBe('application/problem+json');
  const problem = (await response.json()) as { status: number; type: string; title: string; detail: string; pointer?: string };
  expect(problem.status).toBe(response.status);
  return problem;
};

beforeAll(bundleWork);

describe('POST /api/hand-off', () => {
  it('answers with the files of the plan, the same bytes each time', async () => {
    const [first, second] = await Promise.all([ask(archive, '?plan=All%20of%20it'), ask(archive, '?plan=hAll')]);
    expect([first.status, first.headers.get('content-type')]).toEqual([200, 'application/zip']);
    const bytes = new Uint8Array(await first.arrayBuffer());
    expect(Object.keys(unzipSync(bytes))).toEqual(
      plannedFiles(kit, kit.kit.handOffs[0]!)
        .map((f) => f.path)
        .sort(),
    );
    expect(Buffer.compare(bytes, new Uint8Array(await second.arrayBuffer()))).toBe(0);
  });

  it('says what is wrong, where, and what there is instead', async () => {
    expect(await problemOf(await ask(null))).toMatchObject({ status: 400, type: 'urn:oligochrome:problem:empty' });
    expect((await problemOf(await ask(Uint8Array.of(1, 2, 3)))).detail).toContain('not a zip archive');
    expect(await problemOf(await ask(archive, '?plan=Engine'))).toMatchObject({
      status: 422,
      detail: expect.stringContaining('no plan “Engine”; it has “All of it”') as string,
      pointer: '/kit/handOffs',
    });
    expect(await problemOf(await ask(archive, '', { 'content-length': String(1e9) }))).toMatchObject({ status: 413 });
    const clash = {
      ...kit,
      kit: {
        ...kit.kit,
        handOffs: [
          { ...kit.kit.handOffs[0]!, parts: [...kit.kit.handOffs[0]!.parts.slice(0, 1)], manifest: { path: 'a?', template: '{}' } },
        ],
      },
    };
    const refused = await problemOf(await ask(writeArchive(clash, new Map([[address, packed]]))));
    expect(refused).toMatchObject({ status: 422, type: 'urn:oligochrome:problem:plan' });
    expect(refused.detail).toContain('“a?” cannot be written: “?” is not allowed');
    expect((await problemOf(await ask(writeArchive(someKit(), new Map([[address, packed]]))))).detail).toContain('has no plan');
  });

  it('sends away who comes while two are at work, and takes the next when they have been answered', async () => {
    const answers = await Promise.all([ask(archive), ask(archive), ask(archive)]);
    expect([answers[2].status, answers[2].headers.get('retry-after')]).toEqual([503, '5']);
    for (const answer of answers) await answer.arrayBuffer();
    await vi.waitFor(async () => expect((await ask(archive)).status).toBe(200), { timeout: 120_000 });
  });

  it('says how to ask: other methods, and forms', async () => {
    const got = GET();
    expect([got.status, got.headers.get('allow')]).toEqual([405, 'POST']);
    expect((await problemOf(got)).detail).toContain('--data-binary');
    const form = new FormData();
    form.append('archive', 'a.zip');
    const sent = await POST(new Request('http://skerry.test/api/hand-off', { method: 'POST', body: form }));
    expect(await problemOf(sent)).toMatchObject({ status: 415, type: 'urn:oligochrome:problem:form' });
  });

  it('does not wait for who says nothing', async () => {
    vi.useFakeTimers();
    const body = new ReadableStream({ start: (to) => to.enqueue(Uint8Array.of(80)) });
    const silent = POST(new Request('http://skerry.test/api/hand-off', { method: 'POST', body, duplex: 'half' } as RequestInit));
    await vi.advanceTimersByTimeAsync(served.silence - 1);
    expect(await Promise.race([silent, 'still waiting'])).toBe('still waiting');
    await vi.advanceTimersByTimeAsync(1);
    vi.useRealTimers();
    expect(await problemOf(await silent)).toMatchObject({ status: 408, type: 'urn:oligochrome:problem:silent' });
  });

  it('ends work at its deadline and at its bound of memory, and stays well', async () => {
    const signal = new AbortController().signal;
    const ended = (bounds: { work: number; memory: number }) =>
      new Promise((resolve, reject) => {
        const over = workApart(archive, '', signal, () => over.then(({ told }) => resolve(told), reject), bounds);
      });
    expect(await ended({ work: 20, memory: 2 ** 31 })).toEqual({ ended: 'late' });
    expect(await ended({ work: 60_000, memory: 2 ** 24 })).toEqual({ ended: 'memory' });
    expect((await ask(archive)).status).toBe(200);
  });
});
