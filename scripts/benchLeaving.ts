// Figures of what leaves: called by `npm run bench`.
import { Document, WebIO } from '@gltf-transform/core';
import { flatten, join, palette, prune, weld } from '@gltf-transform/functions';
import { DoubleSide, Ray, Vector3 } from 'three';
import { costOfGltf } from '@/core/files/budget/costOfGltf';
import { openGltf } from '@/core/files/gltf/openGltf';
import { writeGlb } from '@/core/files/gltf/writeGlb';
import { readModel } from '@/core/files/formats/readModel';
import { emptySeats, type Model } from '@/core/kit/kit';
import { meshFromLists } from '@/core/shapes/mesh/build';
import { measureFaces } from '@/core/shapes/mesh/measure';
import { faceCount, type PolyMesh } from '@/core/shapes/mesh/polyMesh';
import { triangulate } from '@/core/shapes/mesh/triangulate';
import { newKit } from '@/core/sheet/starter';
import { buildTree, hiddenFaces } from '@/workers/rays';

/** A heap of balls that lie in each other: most of their faces are never seen. 384 quads each. */
export function heap(balls = 170): PolyMesh {
  let seed = 7;
  const random = () => (seed = (seed * 1103515245 + 12345) & 0x7fffffff) / 0x7fffffff;
  const [around, up] = [24, 16];
  const positions: number[] = [];
  const faces: number[][] = [];
  for (let i = 0; i < balls; i++) {
    const [x, y, z, r] = [random() * 6, random() * 3, random() * 6, 0.5 + random()];
    const base = positions.length / 3;
    for (let b = 0; b <= up; b++)
      for (let a = 0; a < around; a++) {
        const [t, p] = [(b / up) * Math.PI, (a / around) * 2 * Math.PI];
        positions.push(x + r * Math.sin(t) * Math.cos(p), y + r * Math.cos(t), z + r * Math.sin(t) * Math.sin(p));
      }
    for (let b = 0; b < up; b++)
      for (let a = 0; a < around; a++) {
        const at = (row: number, column: number) => base + row * around + (column % around);
        faces.push([at(b, a), at(b, a + 1), at(b + 1, a + 1), at(b + 1, a)]);
      }
  }
  return meshFromLists({ positions, faces });
}

/**
 * Never-seen faces of a heap, and as the baseline 64 rays on each side from five points of every 200th face,
 * until one escapes, times 200: the way it was done before.
 */
export function benchHidden(): { triangles: number; hidden: number; ours: number; before: number } {
  const mesh = heap();
  const { normals } = measureFaces(mesh);
  const of = { mesh, triangles: triangulate(mesh, normals) };
  const tree = buildTree(of);
  let start = performance.now();
  const hidden = hiddenFaces(of, tree, normals).length;
  const ours = performance.now() - start;
  const around = Array.from({ length: 128 }, (_, i) => {
    const y = 1 - ((i + 0.5) / 128) * 2;
    const turn = i * Math.PI * (3 - Math.sqrt(5));
    return new Vector3(Math.cos(turn) * Math.sqrt(1 - y * y), y, Math.sin(turn) * Math.sqrt(1 - y * y));
  });
  const every = 200;
  start = performance.now();
  for (let f = 0; f < faceCount(mesh); f += every) {
    const normal = new Vector3().fromArray(normals, f * 3);
    const corners = Array.from(mesh.cornerVertex.subarray(mesh.faceStart[f]!, mesh.faceStart[f + 1]!), (v) =>
      new Vector3().fromArray(mesh.positions, v * 3),
    );
    const middle = corners.reduce((sum, c) => sum.add(c), new Vector3()).divideScalar(corners.length);
    const points = [middle, ...corners.map((c) => middle.clone().lerp(c, 0.85))];
    points.some((p) =>
      [1, -1].some((side) => {
        const from = p.clone().addScaledVector(normal, side * 6e-5);
        return around.some((d) => d.dot(normal) * side > 1e-3 && tree.raycastFirst(new Ray(from, d), DoubleSide) === null);
      }),
    );
  }
  return { triangles: of.triangles.face.length, hidden, ours, before: (performance.now() - start) * every };
}

/** 115 nodes that share eight meshes of eight materials: with fewest draw calls, and by a general optimizer. */
export async function benchJoined(): Promise<string> {
  const document = new Document();
  const buffer = document.createBuffer();
  const scene = document.createScene();
  document.getRoot().setDefaultScene(scene);
  const ball = heap(1);
  const triangles = triangulate(ball);
  const meshes = Array.from({ length: 8 }, (_, i) =>
    document.createMesh(`ball ${i}`).addPrimitive(
      document
        .createPrimitive()
        .setMaterial(document.createMaterial(`paint ${i}`).setBaseColorFactor([i / 8, 0.4, 1 - i / 8, 1]))
        .setIndices(
          document
            .createAccessor()
            .setType('SCALAR')
            .setArray(Uint16Array.from(triangles.corners, (c) => ball.cornerVertex[c]!))
            .setBuffer(buffer),
        )
        .setAttribute(
          'POSITION',
          document
            .createAccessor()
            .setType('VEC3')
            .setArray(ball.positions as Float32Array<ArrayBuffer>)
            .setBuffer(buffer),
        ),
    ),
  );
  for (let i = 0; i < 115; i++)
    scene.addChild(
      document
        .createNode(`node ${i}`)
        .setMesh(meshes[i % 8]!)
        .setTranslation([i * 3, 0, 0]),
    );
  const bytes = await new WebIO().writeBinary(document);
  const { mesh, keep } = await readModel({ name: 'balls.glb', bytes });
  const kit = newKit('Bench');
  const source = { format: 'gltf' as const, name: '', files: [{ name: 'balls.glb', content: '' }] };
  const model: Model = {
    id: 'm',
    name: 'balls',
    mesh: '',
    faces: faceCount(mesh),
    sheet: kit.sheets[0]!.id,
    regions: [],
    slots: [],
    seams: [],
    source,
  };
  const seats = emptySeats(model.faces);
  seats.cell.forEach((_, f) => (seats.cell[f] = mesh.faceSlot[f]! + 1));
  const cost = async (glb: Uint8Array) => costOfGltf((await openGltf('a.glb', glb)).document);
  const say = (c: { drawCalls: number; gpuVertices: number }, ms: number) =>
    `${c.drawCalls} draw calls, ${c.gpuVertices} vertices, ${Math.round(ms)} ms`;
  const timed = async (make: () => Promise<Uint8Array>) => {
    const start = performance.now();
    const glb = await make();
    return say(await cost(glb), performance.now() - start);
  };
  const item = { model, mesh, seats, files: keep };
  const joined = await timed(() => writeGlb(kit, [item], { meshes: 'joined', nodes: 'joined' }));
  const shared = await timed(() => writeGlb(kit, [item], { meshes: 'shared' }));
  const other = await timed(async () => {
    const { document: own } = await openGltf('a.glb', bytes);
    await own.transform(palette(), flatten(), join(), weld(), prune());
    return new WebIO().writeBinary(own);
  });
  return `115 nodes of 8 meshes and 8 materials: fewest draw calls ${joined}; shared meshes kept ${shared}; a general optimizer (palette, flatten, join, weld, prune) ${other}`;
}
