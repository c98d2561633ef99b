// Figures of islands: called by `npm run bench`, or alone: `node --import tsx scripts/benchIslands.ts`.
import { packPieces, type Piece } from '@/core/islands/pack';
import { adjacencyOf } from '@/core/shapes/mesh/adjacency';
import { meshFromLists } from '@/core/shapes/mesh/build';
import type { PolyMesh } from '@/core/shapes/mesh/polyMesh';
import { triangulate } from '@/core/shapes/mesh/triangulate';
import { trianglesOfFaces } from '@/core/islands/unwrap/chart';
import { edgeCorner } from '@/core/shapes/pick/edges';
import { stretchOn } from '@/core/islands/unwrap/stretch';
import { unwrap, usualSteps } from '@/core/islands/unwrap/unwrap';
import * as watlas from 'watlas';

type Atlas = InstanceType<typeof watlas.Atlas>;

/** A tower of 20,000 triangles whose wall swells and dents; its seams: four lines from foot to top, and two around. */
function wavyTower(): { mesh: PolyMesh; seams: Set<number> } {
  const [rows, around] = [100, 100];
  const positions: number[] = [];
  for (let j = 0; j <= rows; j++)
    for (let i = 0; i < around; i++) {
      const a = (i / around) * 2 * Math.PI;
      const r = 1 + 0.2 * Math.sin(5 * a) * Math.sin(j / 7);
      positions.push(r * Math.cos(a), j / 20, -r * Math.sin(a));
    }
  const at = (j: number, i: number) => j * around + (i % around);
  const faces: number[][] = [];
  for (let j = 0; j < rows; j++)
    for (let i = 0; i < around; i++) {
      faces.push([at(j, i), at(j, i + 1), at(j + 1, i + 1)], [at(j, i), at(j + 1, i + 1), at(j + 1, i)]);
    }
  const mesh = meshFromLists({ positions, faces });
  const adjacency = adjacencyOf(mesh);
  const isSeam = (v: number, w: number) => {
    const [j, i, k, l] = [Math.floor(v / around), v % around, Math.floor(w / around), w % around];
    return (i === l && i % 25 === 0) || (j === k && (j === 33 || j === 66));
  };
  const seams = new Set<number>();
  mesh.cornerVertex.forEach((v, c) => {
    const next = c % 3 === 2 ? c - 2 : c + 1;
    if (isSeam(v, mesh.cornerVertex[next]!)) seams.add(edgeCorner(adjacency, c));
  });
  return { mesh, seams };
}

function atlasOf(positions: Float32Array, indices: Uint32Array): Atlas {
  const atlas = new watlas.Atlas();
  atlas.addMesh({
    vertexPositionData: positions,
    vertexCount: positions.length / 3,
    vertexPositionStride: 12,
    indexData: indices,
    indexCount: indices.length,
  });
  return atlas;
}

/** The UVs that an atlas gave, at the corners of the triangles that it was given. */
function placesOf(atlas: Atlas, corners: number): Float32Array {
  const mesh = atlas.getMesh(0);
  const indices = new Uint32Array(mesh.indexCount);
  mesh.getIndexArray(indices);
  const places = new Float32Array(corners * 2);
  indices.forEach((v, c) => places.set(mesh.getVertex(v).uv, c * 2));
  return places;
}

export interface UnwrapFigures {
  ours: number;
  theirs: number;
  islands: [ours: number, theirs: number];
  area: [ours: number, theirs: number];
  angle: [ours: number, theirs: number];
}

/** Unwrapping 20,000 triangles along given seams beside the charts that watlas makes of its own, and the stretch of both. */
export async function benchUnwrap(): Promise<UnwrapFigures> {
  await watlas.Initialize();
  const { mesh, seams } = wavyTower();
  const adjacency = adjacencyOf(mesh);
  const triangles = triangulate(mesh, adjacency.normals);
  const surface = { mesh, adjacency, triangles };
  const faces = Uint32Array.from(adjacency.areas.keys());
  const run = () => unwrap(surface, faces, (c) => seams.has(edgeCorner(adjacency, c)), { steps: usualSteps, mayCut: true });
  run();
  let start = performance.now();
  const laid = run();
  const ours = performance.now() - start;
  if ('closed' in laid) throw new Error('The tower was not laid flat.');
  const atlas = atlasOf(mesh.positions, mesh.cornerVertex);
  start = performance.now();
  atlas.computeCharts({});
  const theirs = performance.now() - start;
  atlas.packCharts({});
  const starts = trianglesOfFaces(triangles, faces.length);
  const own = stretchOn(mesh, triangles, faces, laid.places, starts);
  const other = stretchOn(mesh, triangles, faces, placesOf(atlas, mesh.cornerVertex.length), starts);
  const islands: [number, number] = [laid.islands.length, atlas.chartCount];
  atlas.delete();
  return { ours, theirs, islands, area: [own.areaStretch, other.areaStretch], angle: [own.angleStretch, other.angleStretch] };
}

export interface PackFigures {
  what: string;
  ours: number;
  fill: number;
  theirs: number;
  theirFill: number;
  brute: number;
  bruteFill: number;
}

/** Packing 500 islands, with 2 texels between them, on 1024 × 1024. */
export async function benchPack(): Promise<PackFigures[]> {
  await watlas.Initialize();
  let seed = 7;
  const random = () => (seed = (seed * 1103515245 + 12345) & 0x7fffffff) / 0x7fffffff;
  const star = (n: number, size: number, bay: number) => {
    const wide = 0.5 + random();
    return Array.from({ length: n }, (_, i): [number, number] => {
      const [a, r] = [(i / n) * 2 * Math.PI, size * (1 - bay * random())];
      return [r * Math.cos(a) * wide, (r * Math.sin(a)) / wide];
    });
  };
  const box = (w: number, h: number): [number, number][] => [[0, 0], [w, 0], [w, h], [0, h]]; // prettier-ignore
  const sets: [string, [number, number][][]][] = [
    ['rounded', Array.from({ length: 500 }, () => star(5 + Math.floor(random() * 8), 0.3 + random(), 0.3))],
    ['ragged', Array.from({ length: 500 }, () => star(4 + Math.floor(random() * 12), random() < 0.1 ? 3 : 0.3 + random() * 0.6, 0.6))],
    ['boxes', Array.from({ length: 500 }, () => box(0.2 + random(), 0.2 + random() * 2))],
  ];
  return sets.map(([what, polygons]) => {
    const pieces = polygons.map((p): Piece => {
      const middle = [0, 1].map((k) => p.reduce((sum, q) => sum + q[k]!, 0) / p.length);
      return Float64Array.from(p.flatMap((q, i) => [...middle, ...q, ...p[(i + 1) % p.length]!]));
    });
    const total = pieces.reduce((sum, p) => sum + areaOf(p), 0);
    let start = performance.now();
    const { size } = packPieces(pieces, { width: 1024, height: 1024, margin: 2, mayTurn: true });
    const ours = performance.now() - start;
    const other = (bruteForce: boolean): [number, number] => {
      // Each beside the other in space, so that every one is a chart.
      const positions = pieces.flatMap((p, k) =>
        Array.from({ length: p.length / 2 }, (_, i) => [p[i * 2]! + k * 10, p[i * 2 + 1]!, 0]).flat(),
      );
      const atlas = atlasOf(
        Float32Array.from(positions),
        Uint32Array.from({ length: positions.length / 3 }, (_, i) => i),
      );
      atlas.computeCharts({});
      start = performance.now();
      atlas.packCharts({ padding: 2, resolution: 1024, bruteForce });
      const took = performance.now() - start;
      const fill = (total * atlas.texelsPerUnit ** 2) / (atlas.width * atlas.height);
      atlas.delete();
      return [took, fill];
    };
    const [theirs, theirFill] = other(false);
    const [brute, bruteFill] = other(true);
    return { what, ours, fill: (total * size ** 2) / 1024 ** 2, theirs, theirFill, brute, bruteFill };
  });
}

function areaOf(p: Piece): number {
  let sum = 0;
  for (let t = 0; t < p.length; t += 6)
    sum += Math.abs((p[t + 2]! - p[t]!) * (p[t + 5]! - p[t + 1]!) - (p[t + 3]! - p[t + 1]!) * (p[t + 4]! - p[t]!)) / 2;
  return sum;
}

/** Both as tables. */
export async function reportIslands(): Promise<void> {
  const u = await benchUnwrap();
  const of = ([a, b]: [number, number]) => `${a.toFixed(3)} | ${b.toFixed(3)}`;
  console.log('\n| unwrapping 20,000 triangles | ours, along seams | watlas, its own charts |\n|---|---|---|');
  console.log(`| ms (ours in ${((100 * u.ours) / u.theirs).toFixed(1)} % of the time) | ${u.ours.toFixed(0)} | ${u.theirs.toFixed(0)} |`);
  console.log(`| islands | ${u.islands.join(' | ')} |\n| stretch in area | ${of(u.area)} |\n| stretch in angle | ${of(u.angle)} |`);
  console.log('\n| packing 500 islands | ours: fill, ms | watlas: fill, ms | brute force: fill, ms |\n|---|---|---|---|');
  const cell = (fill: number, ms: number) => `${(fill * 100).toFixed(1)} %, ${ms.toFixed(0)}`;
  for (const p of await benchPack())
    console.log(`| ${p.what} | ${cell(p.fill, p.ours)} | ${cell(p.theirFill, p.theirs)} | ${cell(p.bruteFill, p.brute)} |`);
}

if (process.argv[1]?.endsWith('benchIslands.ts')) await reportIslands();
