// Each figure beside a baseline in the same process, as a ratio: how many times as fast. `npm run bench`.
import { existsSync, readFileSync, readdirSync, statSync } from 'node:fs';
import { join } from 'node:path';
import { OBJLoader } from 'three/addons/loaders/OBJLoader.js';
import { applyEdit } from '@/core/edit/edit';
import { seatFaces } from '@/core/edit/seatFaces';
import { readObj } from '@/core/io/readObj';
import { emptySeats, type KitState } from '@/core/kit/kit';
import { buildAdjacency } from '@/core/mesh/adjacency';
import type { PolyMesh } from '@/core/mesh/polyMesh';
import { floodSmooth, partOf } from '@/core/pick/scopes';
import { layoutUvs } from '@/core/seat/layout';
import { planRelay, relaySheet } from '@/core/sheet/relay';
import { newKit } from '@/core/sheet/starter';
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
let state: KitState = { kit: { ...kit, models: [model] }, seats: { m: emptySeats(200_000) } };
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
    const plan = planRelay(sheet, new Set(sheet.cells.map((c) => c.id)), { exactTo: 0, spares: 2, dropUnused: false });
    const next = applyEdit(state, relaySheet(kit, sheet, plan));
    for (const seats of tiles) layoutUvs(tile, seats, next.kit.sheets[0]!);
  }),
  'a copy of as many bytes',
  time(9, () => tiles.forEach(() => copy.slice())),
  '50 ms',
]);

console.log('| what | ours, ms | baseline | its ms | times as fast | goal |\n|---|---|---|---|---|---|');
for (const [what, ours, baseline, theirs, goal] of rows)
  console.log(`| ${what} | ${ours.toFixed(2)} | ${baseline} | ${theirs.toFixed(1)} | **${(theirs / ours).toFixed(1)}** | ${goal} |`);
const table = Math.ceil(kit.nextCell / 256) * 1024;
console.log(`\nOne cell's color uploads 4 bytes of a cell table of ${table} bytes; geometry uploads none.`);
reportFirstLoad();

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
  for (const route of ['page', 'kit/[id]/gather/page', 'kit/[id]/color/page', 'kit/[id]/hand-off/page']) {
    const manifest = `.next/server/app/${route}_client-reference-manifest.js`;
    if (!existsSync(manifest)) continue;
    const named = new Set([...readFileSync(manifest, 'utf8').matchAll(/static\/chunks\/([\w.~-]+\.js)/g)].map((m) => m[1]!));
    const main = [...readFileSync('.next/build-manifest.json', 'utf8').matchAll(/static\/chunks\/([\w.~-]+\.js)/g)].map((m) => m[1]!);
    const total = [...new Set([...named, ...main])].reduce((sum, f) => sum + (sizes.get(f) ?? 0), 0);
    console.log(`| /${route.replace(/\/?page$/, '')} | ${Math.round(total / 1000)} |`);
  }
}
