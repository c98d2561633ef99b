import { execFileSync, spawnSync } from 'node:child_process';
import { existsSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { WebIO } from '@gltf-transform/core';
import { build } from 'esbuild';
import { afterAll, beforeAll, expect, it } from 'vitest';
import { decodePng, encodePng } from '@/core/ground/pictures/png';
import { sampleWithThree } from '@tests/sampleWithThree';

const folder = mkdtempSync(join(tmpdir(), 'oligochrome-'));
afterAll(() => rmSync(folder, { recursive: true, force: true }));
/** The command as it is run by hand, and the same in one file, which starts in a third of the time. */
const asByHand = (...args: string[]) => spawnSync('node', ['--import', 'tsx', 'scripts/headless.ts', ...args], { encoding: 'utf8' });
const inOneFile = 'node_modules/.cache/headless.mjs';
beforeAll(() =>
  build({
    entryPoints: ['scripts/headless.ts'],
    bundle: true,
    platform: 'node',
    format: 'esm',
    packages: 'external',
    outfile: inOneFile,
    logLevel: 'warning',
  }),
);
const headless = (...args: string[]) => spawnSync('node', [inOneFile, ...args], { encoding: 'utf8' });

const obj = `mtllib hut.mtl
v 0 0 0\nv 1 0 0\nv 1 1 0\nv 0 1 0\nv 3 0 0\nv 4 0 0\nv 4 1 0
usemtl wall\nf 1 2 3 4\nusemtl door\nf 5 6 7\n`;
writeFileSync(join(folder, 'hut.obj'), obj);
writeFileSync(join(folder, 'hut.mtl'), 'newmtl wall\nKd 1 0.5 0\nnewmtl door\nKd 0 0 1\n');
writeFileSync(join(folder, 'bad.obj'), 'v 0 0 0\nf 1 2 3\n');

it('inspects each file on a line of its own and fails at the end if one is bad', () => {
  const { stdout, status } = asByHand('inspect', join(folder, 'bad.obj'), join(folder, 'hut.obj'));
  const [bad, good] = stdout
    .trim()
    .split('\n')
    .map((l) => JSON.parse(l) as Record<string, unknown>);
  expect(status).toBe(1);
  expect(bad!.error).toBe('bad.obj, line 2: a face uses vertex 2, but the file has 1 up to here.');
  expect(good).toMatchObject({
    format: 'obj',
    faces: 2,
    triangles: 3,
    vertices: 7,
    parts: 2,
    materials: 2,
    uvSets: 0,
    vertexColors: false,
    problems: [{ kind: 'open-border', count: 7 }],
  });
});

it('colors by material into one tiny texture that other readers see', async () => {
  const out = join(folder, 'out');
  const { stdout, status } = headless('color', join(folder, 'hut.obj'), '--by', 'material', '--colors', '4', '--out', out);
  expect(status).toBe(0);
  expect(JSON.parse(stdout)).toMatchObject({
    before: { materials: 2, drawCalls: 2, textureBytes: 0, gpuVertices: 7 },
    after: { materials: 1, drawCalls: 1, gpuVertices: 7 },
    colors: 2,
    maxDeltaE: 0,
  });
  const seen = await sampleWithThree(new Uint8Array(readFileSync(join(out, 'hut.glb'))));
  expect(seen.triangles.map((t) => t.color)).toEqual([
    [255, 128, 0],
    [255, 128, 0],
    [0, 0, 255],
  ]);
  expect(decodePng(new Uint8Array(readFileSync(join(out, 'sheet.png'))))).toMatchObject({ width: 16, height: 16 });
  expect(readFileSync(join(out, 'hut.obj'), 'utf8')).toMatch(/mtllib hut\.mtl[^]*usemtl Sheet[^]*f (\d+\/\d+\/\d+ ?){4}\n/);
  const assimp = '/usr/bin/assimp';
  if (!existsSync(assimp)) return;
  for (const name of ['hut.glb', 'hut.obj']) {
    const info = execFileSync(assimp, ['info', join(out, name)], { encoding: 'utf8' });
    expect(info).toMatch(/Faces:\s+3\b/);
    expect(info).toMatch(/Textures.*:\s*\d|sheet\.png/);
  }
});

it('says which option is wrong', () => {
  expect(headless('color', join(folder, 'hut.obj'), '--colors', 'many').stderr).toContain('--colors takes a whole number');
  expect(JSON.parse(headless('color', join(folder, 'hut.obj'), '--by', 'vertex-color', '--out', folder).stdout)).toMatchObject({
    error: 'The model has no vertex colors.',
  });
});

it('picks by scope, finds the plane that mirrors a model, and faces that are never seen', () => {
  // A box inside a box: the inner one is never seen.
  const box = (s: number, from: number) =>
    Array.from({ length: 8 }, (_, k) => `v ${((k & 1) - 0.5) * s} ${(((k >> 1) & 1) - 0.5) * s} ${((k >> 2) - 0.5) * s}`).join('\n') +
    '\n' +
    ['1 3 4 2', '5 6 8 7', '1 2 6 5', '3 7 8 4', '1 5 7 3', '2 4 8 6']
      .map(
        (f) =>
          'f ' +
          f
            .split(' ')
            .map((v) => Number(v) + from)
            .join(' '),
      )
      .join('\n') +
    '\n';
  const path = join(folder, 'crate.obj');
  writeFileSync(path, box(2, 0) + box(1, 8));
  const run = (...args: string[]) => JSON.parse(headless(...args).stdout) as Record<string, unknown>;
  expect(run('hidden', path)).toEqual({ faces: [6, 7, 8, 9, 10, 11] });
  expect(run('symmetry', path)).toEqual({ axis: 'x', offset: 0, matched: 12, unmatched: 0 });
  expect(run('pick', path, '--scope', 'like', '--face', '2')).toEqual({ faces: [2, 8] });
  expect((run('pick', path, '--scope', 'ring', '--face', '0', '--edge', '1').faces as number[]).length).toBe(4);
  expect(run('pick', path, '--scope', 'flat', '--face', '0', '--angle', '90', '--measure', 'neighbour')).toEqual({
    faces: [0, 1, 2, 3, 4, 5],
  });
  expect(run('pick', path, '--scope', 'part', '--face', '99').error).toBe('The model has 12 faces; there is no face 99.');
});

it('reads palettes of every kind and converts between them', () => {
  writeFileSync(join(folder, 'skerry.css'), ':root { --sea: #123; --foam: rgb(250 250 245); }');
  writeFileSync(join(folder, 'odd.hex'), 'no color');
  const made = ['a.gpl', 'a.png', 'a.json'].map((name) => join(folder, name));
  for (const to of made) expect(headless('convert-palette', join(folder, 'skerry.css'), to).status).toBe(0);
  const { stdout, status } = headless('palette', ...made, join(folder, 'odd.hex'));
  expect(status).toBe(1);
  const rows = stdout
    .trim()
    .split('\n')
    .map((l) => JSON.parse(l) as { kind?: string; colors?: string[]; error?: string });
  expect(rows.map((r) => r.kind)).toEqual(['gpl', 'pixels', 'tokens', undefined]);
  for (const r of rows.slice(0, 3)) expect(r.colors).toEqual(['#112233', '#fafaf5']);
  expect(rows[3]!.error).toBe('odd.hex, line 1: “no color” is no color in hex digits.');
});

it('takes a picture apart into a tiny sheet on which other readers see the same colors', async () => {
  const [width, height] = [64, 32];
  const data = new Uint8Array(width * height * 4).fill(255);
  for (let i = 0; i < width * height; i++) data.set(i % width < 32 ? [200, 40, 40] : i < 32 * 32 ? [40, 40, 200] : [40, 160, 90], i * 4);
  writeFileSync(join(folder, 'harbour.png'), encodePng({ width, height, data }));
  writeFileSync(join(folder, 'boat.mtl'), 'newmtl hull\nmap_Kd harbour.png\n');
  const corners = ['0 0', '1 0', '1 1', '0 1'];
  const square = (i: number) => corners.map((c) => `v ${c.replace(/\d/, (x) => `${Number(x) + i * 2}`)} 0`).join('\n');
  // Red, blue (above), green; and one over red and blue.
  const uvs = [
    '0.1 0.1',
    '0.4 0.1',
    '0.4 0.9',
    '0.1 0.9',
    '0.6 0.6',
    '0.9 0.6',
    '0.9 0.9',
    '0.6 0.9',
    '0.6 0.1',
    '0.9 0.1',
    '0.9 0.4',
    '0.6 0.4',
    '0.4 0.6',
    '0.6 0.6',
    '0.6 0.9',
    '0.4 0.9',
  ];
  const face = (i: number) => `f ${[1, 2, 3, 4].map((k) => `${i * 4 + k}/${i * 4 + k}`).join(' ')}`;
  const lines = ['mtllib boat.mtl', ...[0, 1, 2, 3].map(square), ...uvs.map((u) => `vt ${u}`), 'usemtl hull', ...[0, 1, 2, 3].map(face)];
  writeFileSync(join(folder, 'boat.obj'), lines.join('\n'));
  const out = join(folder, 'apart');
  const { stdout, status } = headless('adopt', join(folder, 'boat.obj'), '--tolerance', '0.01', '--out', out);
  expect(status).toBe(0);
  const before = readFileSync(join(folder, 'harbour.png')).length;
  const after = readFileSync(join(out, 'sheet.png')).length;
  expect(JSON.parse(stdout)).toEqual({
    cells: { solid: 3, gradient: 0, art: 1 },
    faces: { solid: 3, gradient: 0, art: 1, repeating: 0 },
    textureBytes: { before, after },
    maxDeltaE: 0,
  });
  const seen = await sampleWithThree(new Uint8Array(readFileSync(join(out, 'boat.glb'))));
  const red = [200, 40, 40];
  const blue = [40, 40, 200];
  const colors = seen.triangles.map((t) => t.color);
  expect(colors.slice(0, 6)).toEqual([red, red, blue, blue, [40, 160, 90], [40, 160, 90]]);
  expect([red, blue]).toContainEqual(colors[6]);
  const none = headless('adopt', join(folder, 'hut.obj'), '--out', out);
  expect([none.status, JSON.parse(none.stdout)]).toEqual([
    1,
    { file: join(folder, 'hut.obj'), error: 'hut.obj: no face of it shows a picture.' },
  ]);
  expect(headless('adopt', join(folder, 'boat.obj'), '--tolerance', 'far').stderr).toContain('--tolerance takes');
});

it('unwraps a model so that other readers find every length at one scale, and says what it made', async () => {
  // A can of 12 sides, closed at both ends.
  const ring = (y: number) => Array.from({ length: 12 }, (_, i) => `v ${Math.cos((i / 6) * Math.PI)} ${y} ${-Math.sin((i / 6) * Math.PI)}`);
  const sides = Array.from({ length: 12 }, (_, i) => `f ${i + 1} ${((i + 1) % 12) + 1} ${((i + 1) % 12) + 13} ${i + 13}`);
  const ends = [
    `f ${Array.from({ length: 12 }, (_, i) => 12 - i).join(' ')}`,
    `f ${Array.from({ length: 12 }, (_, i) => 13 + i).join(' ')}`,
  ];
  writeFileSync(join(folder, 'can.obj'), [...ring(0), ...ring(3), ...sides, ...ends].join('\n'));
  const run = (seams: string) => {
    const { stdout, status } = headless('unwrap', join(folder, 'can.obj'), '--seams', seams, '--out', join(folder, 'can.glb'));
    expect(status).toBe(0);
    return JSON.parse(stdout) as Record<'islands' | 'areaStretch' | 'angleStretch' | 'flipped' | 'overlaps' | 'fill', number>;
  };
  const told = run('crease:40');
  expect(told).toMatchObject({ islands: 3, flipped: 0, overlaps: 0 });
  expect([told.areaStretch, told.angleStretch]).toEqual([expect.closeTo(1, 4), expect.closeTo(1, 4)]);
  expect(told.fill).toBeGreaterThan(0.4);
  const document = await new WebIO().readBinary(new Uint8Array(readFileSync(join(folder, 'can.glb'))));
  const primitive = document.getRoot().listMeshes()[0]!.listPrimitives()[0]!;
  const [index, places, uvs] = [primitive.getIndices()!, primitive.getAttribute('POSITION')!, primitive.getAttribute('TEXCOORD_0')!];
  let area = 0;
  const ratios: number[] = [];
  for (let t = 0; t < index.getCount(); t += 3) {
    const v = [0, 1, 2].map((k) => index.getScalar(t + k));
    const p = v.map((i) => places.getElement(i, []));
    const q = v.map((i) => uvs.getElement(i, []));
    expect(q.flat().every((x) => x > 0 && x < 1)).toBe(true);
    for (const k of [0, 1, 2]) {
      const j = (k + 1) % 3;
      ratios.push(Math.hypot(...[0, 1].map((a) => q[k]![a]! - q[j]![a]!)) / Math.hypot(...[0, 1, 2].map((a) => p[k]![a]! - p[j]![a]!)));
    }
    area += Math.abs((q[1]![0]! - q[0]![0]!) * (q[2]![1]! - q[0]![1]!) - (q[1]![1]! - q[0]![1]!) * (q[2]![0]! - q[0]![0]!)) / 2;
  }
  expect(Math.max(...ratios) / Math.min(...ratios)).toBeLessThan(1.001);
  expect(told.fill).toBeCloseTo(area, 3);
  expect(headless('unwrap', join(folder, 'can.obj'), '--seams', 'some').stderr).toContain('--seams takes');
});

it('cuts a model by a plane, and says what it had and has', async () => {
  const out = join(folder, 'made', 'cut.glb');
  // A box of 2 × 1 × 1 m; across x at half a metre four of its faces are cut.
  writeFileSync(
    join(folder, 'crate.obj'),
    `${[0, 2].flatMap((x) => [0, 1].flatMap((y) => [0, 1].map((z) => `v ${x} ${y} ${z}`))).join('\n')}\nf 1 2 4 3\nf 5 7 8 6\nf 1 5 6 2\nf 3 4 8 7\nf 1 3 7 5\nf 2 6 8 4\n`,
  );
  const { stdout, status } = headless('cut', join(folder, 'crate.obj'), '--plane', '2,0,0,1', '--out', out);
  expect(status).toBe(0);
  const told = JSON.parse(stdout) as { before: object; after: object };
  expect(told).toMatchObject({
    before: { faces: 6, triangles: 12, vertices: 8, area: 10, volume: 2 },
    after: { faces: 10, triangles: 20, vertices: 12, area: 10, volume: 2 },
  });
  const primitives = (await new WebIO().readBinary(readFileSync(out)))
    .getRoot()
    .listMeshes()
    .flatMap((m) => m.listPrimitives());
  expect(primitives.reduce((sum, p) => sum + p.getIndices()!.getCount() / 3, 0)).toBe(20);
  const xs = primitives.flatMap((p) => [...p.getAttribute('POSITION')!.getArray()!].filter((_, i) => i % 3 === 0));
  expect([...new Set(xs)].sort()).toEqual([0, 0.5, 2]);
  expect(headless('cut', join(folder, 'crate.obj'), '--plane', '0,0,0,1').stderr).toContain('--plane takes a direction');

  // Where nothing is colored the cut parts nothing, and goes again.
  const back = headless('dissolve', out, '--angle', '0', '--out', join(folder, 'whole.glb'));
  expect(JSON.parse(back.stdout)).toMatchObject({ after: JSON.parse(stdout).before });
  expect(headless('dissolve', out, '--angle', '21').stderr).toContain('--angle takes 0 to 20 degrees');
});

it('brings a picture to few colors and few texels, and says what that costs', () => {
  const [from, out] = [join(folder, 'plank.png'), join(folder, 'made', 'few.png')];
  const data = new Uint8Array(64 * 32 * 4).map((_, i) => (i % 4 === 3 ? 255 : (i * 37) % 200));
  writeFileSync(from, encodePng({ width: 64, height: 32, data }));
  const { stdout, status } = headless('reduce', from, '--colors', '4', '--size', '16', '--dither', 'ordered', '--out', out);
  expect(status).toBe(0);
  const written = readFileSync(out);
  const { width, height, data: texels } = decodePng(new Uint8Array(written));
  const colors = new Set(new Uint32Array(texels.buffer)).size;
  const said = JSON.parse(stdout) as { meanDeltaE: number; worstDeltaE: number };
  expect(said).toMatchObject({ colors, width, height, bytes: written.length });
  expect([width, height, colors]).toEqual([16, 8, 4]);
  expect(said.meanDeltaE).toBeGreaterThan(0);
  expect(said.worstDeltaE).toBeGreaterThan(said.meanDeltaE);

  const wide = headless('reduce', from, '--size', '65', '--out', out);
  expect(wide.status).toBe(1);
  expect(wide.stdout).toContain('The picture has 64 × 32 texels; 65 × 33 would be more');
  expect(headless('reduce', from, '--dither', 'wild').stderr).toContain('--dither takes none, ordered or diffusion');
  expect(headless('reduce', from, '--colors', '3.5').stderr).toContain('--colors takes a whole number');
  // 30,000 × 30,000 by its header: refused before anything of that size is made.
  const huge = readFileSync(from);
  huge.writeUInt32BE(30_000, 16);
  huge.writeUInt32BE(30_000, 20);
  writeFileSync(join(folder, 'huge.png'), huge);
  expect(headless('reduce', join(folder, 'huge.png')).stdout).toContain('30000 × 30000 pixels; pictures up to 8192 a side');
});
