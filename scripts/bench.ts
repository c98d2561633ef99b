// Each figure beside a baseline in the same process, as a ratio: how many times as fast. `npm run bench`.
import { byId } from '@/core/ground/byId';
import { existsSync, readFileSync, readdirSync, statSync } from 'node:fs';
import { join } from 'node:path';
import { DoubleSide, Mesh, MeshBasicMaterial, Ray, Raycaster, Vector3 } from 'three';
import { OBJLoader } from 'three/addons/loaders/OBJLoader.js';
import { applyEdit } from '@/core/kit/edit/editKinds';
import { seatFaces } from '@/core/kit/edit/seatFaces';
import { readObj } from '@/core/files/formats/readObj';
import { emptySeats, type KitState } from '@/core/kit/kit';
import { buildAdjacency } from '@/core/shapes/mesh/adjacency';
import type { PolyMesh } from '@/core/shapes/mesh/polyMesh';
import { facesUnderBrush } from '@/core/shapes/pick/brush';
import { grow } from '@/core/shapes/pick/change';
import { matchFaces } from '@/core/faces/carry/matchFaces';
import { facesSeenInside, ownersOf } from '@/core/shapes/pick/outline';
import { findSymmetry } from '@/core/shapes/pick/symmetry';
import { ringThrough } from '@/core/shapes/pick/ring';
import { floodSmooth } from '@/core/shapes/pick/floods';
import { partOf } from '@/core/shapes/pick/scopes';
import { boundsOf, middlesOfFaces } from '@/core/shapes/mesh/measure';
import { triangulate } from '@/core/shapes/mesh/triangulate';
import { rasterFaces } from '@/core/shapes/view/rasterFaces';
import { framingMatrix } from '@/core/shapes/view/thumbnail';
import type { LoadedMesh } from '@/workers/residents';
import { facesThrough, smallFacesInOutline } from '@/workers/facesInOutline';
import { buildTree } from '@/workers/rays';
import { layoutUvs } from '@/core/faces/seat/layout';
import { planRelay, relaySheet } from '@/core/sheet/relay';
import { newKit } from '@/core/sheet/starter';
import * as imageQ from 'image-q';
import quantizeMedian from 'quantize';
import { rgbFromHex } from '@/core/ground/color/hex';
import { labDistance, labFromRgb, type Lab } from '@/core/ground/color/oklab';
import { sampleColors, drawColors } from '@/core/sheet/picture/drawColors';
import { recognise } from '@/core/sheet/picture/readBlocks';
import type { Raster } from '@/core/ground/pictures/raster';
import { benchCut } from './benchCut';
import { picksToTime } from './benchPicks';
import { benchPaint, benchReduce } from './benchPaint';
import { benchProof } from './benchProof';
import { benchOpening } from './benchOpening';
import { benchStage } from './benchStage';
import { benchVariants } from './benchVariants';
import { reportIslands } from './benchIslands';
import { benchHidden, benchJoined } from './benchLeaving';
import { objText, seaFloor } from './demo-kit/large';

/** Median milliseconds of some runs, after one to warm up. */
function time(runs: number, work: () => unknown): number {
  work();
  const times = Array.from({ length: runs }, () => {
    const start = performance.now();
    work();
    return performance.now() - start;
  });
  return times.sort((a, b) => a - b)[Math.floor(runs / 2)]!;
}

const rows: [what: string, ours: number, baseline: string, theirs: number, goal: string][] = [];
const mesh = seaFloor();
const text = objText(mesh);
const bytes = new TextEncoder().encode(text);

rows.push([
  `read an OBJ of 200,000 quads (${(bytes.length / 1e6).toFixed(1)} MB), polygons kept`,
  time(5, () => readObj('floor.obj', bytes, () => [])),
  "three's OBJLoader, from a string",
  time(3, () => new OBJLoader().parse(text)),
  '3 to 4',
]);

rows.push([
  'weld and adjacency',
  time(5, () => buildAdjacency(mesh)),
  'a Map of edges over welded keys',
  time(3, () => mapAdjacency(mesh)),
  '2.5',
]);

const adjacency = buildAdjacency(mesh);
const patch = buildAdjacency(seaFloor(250, 200));
const byMap = mapAdjacency(mesh);
rows.push([
  'part of 200,000 faces from ids',
  time(9, () => partOf(adjacency, 77)),
  'a flood over the Map',
  time(3, () => mapFlood(byMap, 77, Infinity)),
  '4 ms',
]);
rows.push([
  'smooth area of 50,000 faces, warm',
  time(9, () => floodSmooth(patch, 77, 60)),
  'a flood over the Map',
  time(3, () => mapFlood(byMap, 77, 50_000)),
  '16 ms',
]);

const kit = newKit('Bench');
const model = {
  id: 'm',
  name: 'm',
  mesh: '',
  faces: 200_000,
  sheet: kit.sheets[0]!.id,
  regions: [],
  slots: [],
  seams: [],
  source: { format: 'made' as const, name: '', files: [] },
};
let state: KitState = { kit: { ...kit, models: [model] }, seats: byId({ m: emptySeats(200_000) }) };
const some = Uint32Array.from({ length: 50_000 }, (_, i) => i * 4);
const texels = new Uint16Array(200_704);
let turn = 0;
rows.push([
  'color 50,000 scattered faces, to the texels',
  time(9, () => {
    const edit = seatFaces('m', state.seats.m!.cell, some, (turn++ % 15) + 1);
    if (edit) state = applyEdit(state, edit);
    texels.set(state.seats.m!.cell);
  }),
  'a new array by map and a copy',
  time(9, () => {
    const picked = new Set(some);
    texels.set(Array.from(state.seats.m!.cell).map((c, f) => (picked.has(f) ? 3 : c)));
  }),
  '6 ms',
]);

const tile = seaFloor(50, 40);
const tiles = Array.from({ length: 50 }, (_, i) => ({
  ...emptySeats(2000),
  cell: new Uint16Array(2000).map((_, f) => ((f * 7 + i) % 14) + 1),
}));
const copy = new Float32Array(tile.cornerVertex.length * 2);
rows.push([
  're-lay a sheet under 50 models of 2,000 faces, with all their UVs',
  time(9, () => {
    const sheet = kit.sheets[0]!;
    const plan = planRelay([sheet], new Set(sheet.cells.map((c) => c.id)), { exactTo: 0, spares: 2, dropUnused: false });
    const next = applyEdit(state, relaySheet(kit, sheet, plan));
    for (const seats of tiles) layoutUvs(tile, seats, next.kit.sheets[0]!);
  }),
  'a copy of as many bytes',
  time(9, () => tiles.forEach(() => copy.slice())),
  '50 ms',
]);

rows.push([
  'ring of 400 quads in 200,000',
  time(15, () => ringThrough(mesh, adjacency, mesh.faceStart[100_200]!)),
  'a flood over the Map, as many faces',
  time(5, () => mapFlood(byMap, 77, 400)),
  '1 ms',
]);
const floodOverMap = time(3, () => mapFlood(byMap, 77, 50_000));
for (const [what, work, goal] of picksToTime()) rows.push([what, time(9, work), 'a flood over the Map, 50,000 faces', floodOverMap, goal]);
const half = Uint8Array.from({ length: 200_000 }, (_, f) => (f < 50_000 ? 1 : 0));
rows.push([
  'grow 50,000 faces by a ring',
  time(9, () => grow(adjacency, half)),
  'the neighbours of each over the Map',
  time(3, () => growByMap(byMap, half)),
  '16 ms',
]);
const seen = triangulate(mesh, adjacency.normals);
const view = { positions: mesh.positions, triangleVertices: seen.corners.map((c) => mesh.cornerVertex[c]!), triangleFace: seen.face };
const camera = framingMatrix(boundsOf(mesh), 1.1);
const raster = rasterFaces(view, camera, 1280, 800);
const tree = buildTree({ mesh, triangles: seen });
const ahead = new Vector3(-0.62, -0.42, -1).normalize();
const plain = new Mesh(tree.geometry, new MeshBasicMaterial({ side: DoubleSide }));
const caster = new Raycaster(new Vector3(250, 0, 200).addScaledVector(ahead, -400), ahead);
rows.push([
  'a ray: which face a click meets',
  time(31, () => tree.raycastFirst(caster.ray, DoubleSide)),
  'three’s raycast without a tree',
  time(5, () => caster.intersectObject(plain)),
  '',
]);
const large = { id: '', mesh, adjacency, triangles: seen } as unknown as LoadedMesh;
const box = Float32Array.of(320, 200, 960, 200, 960, 600, 320, 600);
const present = { matrix: camera, width: 1280, height: 800, eye: [0, 0, 0] as [number, number, number], ahead: ahead.toArray() };
rows.push([
  'a box: faces without a pixel of their own, by rays',
  time(3, () => smallFacesInOutline(large, tree, present, box, 'touched', ownersOf(raster, 200_000))),
  'the box again over all faces, through the model',
  time(3, () => facesThrough(large, present, box, 'touched')),
  '500 ms',
]);
rows.push([
  'the plane that mirrors 200,000 faces, and their twins',
  time(3, () => findSymmetry(mesh, adjacency)),
  'a Map from the rounded middle of each face',
  time(3, () => mapOfMiddles(mesh)),
  '',
]);
rows.push([
  'faces known again after 200,000 were moved and shuffled',
  time(1, () => matchFaces(mesh, shuffled(mesh), () => false)),
  'a Map from the rounded middle of each face, twice',
  2 * time(3, () => mapOfMiddles(mesh)),
  '',
]);
rows.push([
  'which face owns each pixel, 1280 × 800, 400,000 triangles',
  time(5, () => rasterFaces(view, camera, 1280, 800)),
  'rays through the tree for a hundredth of the pixels, × 100',
  100 * time(1, () => castRays(tree, mesh, 10_240, ahead)),
  '100 ms',
]);
rows.push([
  'a move of the brush, 24 px',
  time(15, () => facesUnderBrush(mesh, raster, adjacency, { x: 640, y: 400, radius: 24, angle: 40, reach: 'touched' })),
  'a copy of the face raster',
  time(5, () => raster.faces.slice()),
  '16 ms',
]);
rows.push([
  'a box of a quarter of the view, faces that own a pixel',
  time(5, () =>
    facesSeenInside(mesh, raster, Float32Array.of(320, 200, 960, 200, 960, 600, 320, 600), 'touched', () => new Float32Array(0)),
  ),
  'a copy of the face raster',
  time(5, () => raster.faces.slice()),
  '16 ms',
]);

const photo = photoLike(2048, 2048);
const colorsOf = (palette: readonly (readonly number[])[]) => palette.map((c) => labFromRgb([c[0]!, c[1]!, c[2]!]));
const drawn = drawColors(sampleColors(photo), 16).colors.map((c) => rgbFromHex(c.color));
const triples: [number, number, number][] = [];
for (let i = 0; i < photo.data.length; i += 4) triples.push([photo.data[i]!, photo.data[i + 1]!, photo.data[i + 2]!]);
const median16 = () => (quantizeMedian(triples, 16) as { palette(): number[][] }).palette();
const byImageQ = (method: 'wuquant' | 'rgbquant') =>
  imageQ
    .buildPaletteSync([imageQ.utils.PointContainer.fromUint8Array(photo.data, 2048, 2048)], { colors: 16, paletteQuantization: method })
    .getPointContainer()
    .getPointArray()
    .map((p) => [p.r, p.g, p.b]);
const oursDraw = time(7, () => drawColors(sampleColors(photo), 16));
rows.push([
  '16 colors from 2,048² pixels',
  oursDraw,
  'quantize, its list of pixels made first',
  time(2, () => (listOf(photo), median16())),
  '4',
]);
rows.push(['16 colors from 2,048² pixels', oursDraw, 'quantize, the list given', time(3, median16), '']);
rows.push(['16 colors from 2,048² pixels', oursDraw, 'image-q, wuquant', time(1, () => byImageQ('wuquant')), '4']);
const errors = {
  ours: meanError(photo, colorsOf(drawn)),
  quantize: meanError(photo, colorsOf(median16())),
  'image-q wuquant': meanError(photo, colorsOf(byImageQ('wuquant'))),
  'image-q rgbquant': meanError(photo, colorsOf(byImageQ('rgbquant'))),
};
const blocksPicture = blocks2048();
rows.push([
  'recognise 32 × 32 blocks in 2,048² pixels (goal 1 s)',
  time(3, () => recognise(blocksPicture)),
  'a copy of as many bytes',
  time(5, () => blocksPicture.data.slice()),
  '',
]);

rows.push(...benchVariants(mesh, time), ...benchCut(mesh, adjacency, time), ...benchPaint(time));
const reduction = benchReduce(photoLike(512, 512), time);
rows.push(...reduction.rows);
console.log('| what | ours, ms | baseline | its ms | times as fast | goal |\n|---|---|---|---|---|---|');
for (const [what, ours, baseline, theirs, goal] of rows)
  console.log(`| ${what} | ${ours.toFixed(2)} | ${baseline} | ${theirs.toFixed(1)} | **${(theirs / ours).toFixed(1)}** | ${goal} |`);
const table = Math.ceil(kit.nextCell / 256) * 1024;
console.log(`\nOne cell's color uploads 4 bytes of a cell table of ${table} bytes; geometry uploads none.`);
console.log(
  '\nMean OKLab error of 16 colors: ' +
    Object.entries(errors)
      .map(([name, e]) => `${name} ${e.toFixed(4)}`)
      .join(', '),
);
console.log(`Mean OKLab error of pictures in few colors; ${reduction.errors.join('; ')}`);
const hiddenFigures = benchHidden();
console.log(
  `\nNever-seen faces of ${hiddenFigures.triangles} triangles, ${hiddenFigures.hidden} faces hidden: ${(hiddenFigures.ours / 1000).toFixed(1)} s, ${(hiddenFigures.before / hiddenFigures.ours).toFixed(1)} times as fast as rays alone (${(hiddenFigures.before / 1000).toFixed(0)} s).`,
);
console.log(await benchJoined());
const proof = benchProof();
console.log(
  `\nProof over 200,000 faces: ${proof.first.toFixed(0)} ms at first (goal 1,500), ${proof.after.toFixed(0)} after an edit of ten faces (goal 50): ${(proof.first / proof.after).toFixed(0)} times as fast.`,
);
await reportIslands();
reportFirstLoad();
await reportOpening();
await reportStage();

function growByMap(neighbours: number[][], picked: Uint8Array): Uint8Array {
  const out = picked.slice();
  for (let f = 0; f < picked.length; f++) if (picked[f]) for (const g of neighbours[f]!) out[g] = 1;
  return out;
}

/** Parallel rays onto as many faces' first corners. */
function castRays(tree: ReturnType<typeof buildTree>, { positions }: PolyMesh, count: number, ahead: Vector3): number {
  let hits = 0;
  for (let i = 0; i < count; i++) {
    const at = Math.floor((i * (positions.length / 3)) / count) * 3;
    const origin = new Vector3(positions[at]!, positions[at + 1]!, positions[at + 2]!).addScaledVector(ahead, -1e3);
    if (tree.raycastFirst(new Ray(origin, ahead))) hits++;
  }
  return hits;
}

function mapOfMiddles(m: PolyMesh): Map<string, number> {
  const out = new Map<string, number>();
  const middles = middlesOfFaces(m);
  for (let f = 0; f * 3 < middles.length; f++)
    out.set(`${middles[f * 3]!.toFixed(4)},${middles[f * 3 + 1]!.toFixed(4)},${middles[f * 3 + 2]!.toFixed(4)}`, f);
  return out;
}

/** The same faces in another order, and the whole elsewhere. */
function shuffled(m: PolyMesh): PolyMesh {
  const faces = m.faceStart.length - 1;
  const order = Uint32Array.from({ length: faces }, (_, f) => (f * 7919) % faces);
  return {
    ...m,
    positions: m.positions.map((v) => v + 3),
    cornerVertex: Uint32Array.from(m.cornerVertex, (_, c) => m.cornerVertex[order[c >> 2]! * 4 + (c & 3)]!),
  };
}

/** Sky, sea and rock with grain: smooth areas, soft borders and one small strong color. */
function photoLike(width: number, height: number): Raster {
  const data = new Uint8Array(width * height * 4);
  let seed = 12345;
  const random = () => (seed = (seed * 1664525 + 1013904223) >>> 0) / 4294967296;
  for (let i = 0; i < width * height; i++) {
    const [x, y] = [i % width, Math.floor(i / width)];
    const t = y / height;
    const wave = Math.sin(x / 90 + Math.sin(y / 70) * 3) * 18;
    const knoll = Math.sin(x / 140) * Math.cos(y / 110);
    const isBuoy = (x - width * 0.7) ** 2 + (y - height * 0.25) ** 2 < (width * 0.08) ** 2;
    const [r, g, b] = isBuoy
      ? [200, 60 + wave, 45]
      : t < 0.45
        ? [120 + t * 240 + wave * 0.4, 160 + t * 150 + wave * 0.3, 220 - t * 60]
        : t < 0.7
          ? [20 + wave + t * 40, 60 + wave + t * 60, 90 + wave * 1.2 + t * 50]
          : [100 + knoll * 70 + wave, 95 + knoll * 50 + wave * 0.8, 70 + knoll * 40];
    const grain = (random() + random() + random() - 1.5) * 28;
    data.set([r, g, b].map((v) => Math.max(0, Math.min(255, v + grain))).concat(255), i * 4);
  }
  return { width, height, data };
}

function listOf({ data }: Raster): number[][] {
  const list: number[][] = [];
  for (let i = 0; i < data.length; i += 4) list.push([data[i]!, data[i + 1]!, data[i + 2]!]);
  return list;
}

/** Mean OKLab distance between pixels (every 97th) and the nearest color. */
function meanError({ data }: Raster, palette: readonly Lab[]): number {
  let sum = 0;
  let n = 0;
  for (let i = 0; i < data.length; i += 4 * 97) {
    const lab = labFromRgb([data[i]!, data[i + 1]!, data[i + 2]!]);
    sum += Math.min(...palette.map((c) => labDistance(lab, c)));
    n++;
  }
  return sum / n;
}

function blocks2048(): Raster {
  const side = 2048;
  const data = new Uint8Array(side * side * 4);
  for (let i = 0; i < side * side; i++) {
    const block = (Math.floor(i / side / 64) * 32 + Math.floor((i % side) / 64)) * 7919;
    data.set([(block * 3) & 255, (block * 5) & 255, (block * 11) & 255, 255], i * 4);
  }
  return { width: side, height: side, data };
}

/** The plain way: strings for welded positions and for edges, in Maps. */
function mapAdjacency(m: PolyMesh): number[][] {
  const points = new Map<string, number>();
  const pointOf = (v: number) => {
    const key = `${m.positions[v * 3]},${m.positions[v * 3 + 1]},${m.positions[v * 3 + 2]}`;
    let p = points.get(key);
    if (p === undefined) points.set(key, (p = points.size));
    return p;
  };
  const welded = Array.from({ length: m.positions.length / 3 }, (_, v) => pointOf(v));
  const edges = new Map<number, number>();
  const neighbours: number[][] = Array.from({ length: m.faceStart.length - 1 }, () => []);
  for (let f = 0; f + 1 < m.faceStart.length; f++) {
    const [start, end] = [m.faceStart[f]!, m.faceStart[f + 1]!];
    for (let c = start; c < end; c++) {
      const a = welded[m.cornerVertex[c]!]!;
      const b = welded[m.cornerVertex[c + 1 < end ? c + 1 : start]!]!;
      const key = Math.min(a, b) * 4_294_967 + Math.max(a, b);
      const other = edges.get(key);
      if (other === undefined) edges.set(key, f);
      else {
        neighbours[f]!.push(other);
        neighbours[other]!.push(f);
      }
    }
  }
  return neighbours;
}

function mapFlood(neighbours: number[][], face: number, most: number): number[] {
  const seen = new Set([face]);
  const out = [face];
  for (const f of out) {
    if (out.length >= most) break;
    for (const g of neighbours[f]!)
      if (!seen.has(g)) {
        seen.add(g);
        out.push(g);
      }
  }
  return out;
}

/** Opening the demo kit, in the built application. */
async function reportOpening(): Promise<void> {
  const rounds = await benchOpening(6);
  if (!rounds) return console.log('\nNo build or no browser is there, so opening a kit is not measured.');
  const blocks = rounds.flatMap((r) => r.blocks);
  console.log(`\nOpening the demo kit, software renderer: ${rounds.map((r) => r.ready).join(', ')} ms to the first frame; `);
  console.log(`tasks of the page over 50 ms: ${blocks.length ? `${blocks.join(', ')} ms` : 'none'}`);
}

/** Frames of a stage of 2,000 placements, in the built application. */
async function reportStage(): Promise<void> {
  const frames = await benchStage();
  if (!frames) return console.log('\nNo build or no browser is there, so frames of the stage are not stated.');
  console.log('\n| 2,000 placements, software renderer | frames a second while turned | ms for one at rest |\n|---|---|---|');
  for (const [how, { moving, resting }] of Object.entries(frames)) console.log(`| ${how} | ${moving.toFixed(1)} | ${resting.toFixed(0)} |`);
}

/** JavaScript that each route loads first, from the build where there is one. */
function reportFirstLoad(): void {
  const folder = '.next/static/chunks';
  if (!existsSync(folder)) {
    console.log('\nNo build is there, so first-load sizes are not stated. Run “npm run build” first.');
    return;
  }
  const sizes = new Map(
    readdirSync(folder)
      .filter((f) => f.endsWith('.js'))
      .map((f) => [f, statSync(join(folder, f)).size]),
  );
  console.log('\n| route | first-load JavaScript, KB |\n|---|---|');
  for (const route of ['page', 'kit/[id]/gather/page', 'kit/[id]/palette/page', 'kit/[id]/color/page', 'kit/[id]/hand-off/page']) {
    const manifest = `.next/server/app/${route}_client-reference-manifest.js`;
    if (!existsSync(manifest)) continue;
    const named = new Set([...readFileSync(manifest, 'utf8').matchAll(/static\/chunks\/([\w.~-]+\.js)/g)].map((m) => m[1]!));
    const main = [...readFileSync('.next/build-manifest.json', 'utf8').matchAll(/static\/chunks\/([\w.~-]+\.js)/g)].map((m) => m[1]!);
    const total = [...new Set([...named, ...main])].reduce((sum, f) => sum + (sizes.get(f) ?? 0), 0);
    console.log(`| /${route.replace(/\/?page$/, '')} | ${Math.round(total / 1000)} |`);
  }
}
