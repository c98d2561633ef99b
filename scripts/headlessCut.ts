// `headless cut` and `dissolve`: a model cut by a plane, or without edges that part nothing.
import { mkdirSync, writeFileSync } from 'node:fs';
import { dirname } from 'node:path';
import { parseArgs } from 'node:util';
import { writeGlb } from '@/core/files/gltf/writeGlb';
import type { ReadModelResult } from '@/core/files/formats/readModel';
import type { KitState } from '@/core/kit/kit';
import { emptySeats } from '@/core/kit/kit';
import { cutFaces } from '@/core/shapes/cut/cutFaces';
import { planPlaneCut, type Plane } from '@/core/shapes/cut/planeCut';
import { dissolve, dissolveAngles } from '@/core/shapes/dissolve/dissolve';
import { adjacencyOf } from '@/core/shapes/mesh/adjacency';
import { areaOf, volumeOf } from '@/core/shapes/mesh/measure';
import { faceCount, triangleCount, type PolyMesh } from '@/core/shapes/mesh/polyMesh';
import { nodeCodecs } from './nodePlatform';

/** What is asked for, or what is wrong with how it is asked. */
export function cutAsked(args: string[]): { path: string; out: string; plane: Plane } {
  const { values, positionals } = parseArgs({
    args,
    allowPositionals: true,
    options: { plane: { type: 'string', default: '' }, out: { type: 'string', default: 'cut.glb' } },
  });
  const [path] = positionals;
  if (!path || positionals.length !== 1) throw new Error('Give one model.');
  const numbers = values.plane.split(',').map((n) => (n.trim() ? Number(n) : NaN));
  const [x, y, z, distance] = numbers as [number, number, number, number];
  const length = Math.hypot(x, y, z);
  if (numbers.length !== 4 || !numbers.every(Number.isFinite) || !(length > 0))
    throw new Error(`--plane takes a direction and how far along it: NX,NY,NZ,D, not “${values.plane}”.`);
  return { path, out: values.out, plane: { normal: [x / length, y / length, z / length], distance: distance / length } };
}

export function dissolveAsked(args: string[]): { path: string; out: string; angle: number } {
  const { values, positionals } = parseArgs({
    args,
    allowPositionals: true,
    options: { angle: { type: 'string', default: String(dissolveAngles.usual) }, out: { type: 'string', default: 'dissolved.glb' } },
  });
  const [path] = positionals;
  if (!path || positionals.length !== 1) throw new Error('Give one model.');
  const angle = values.angle.trim() ? Number(values.angle) : NaN;
  const { least, most } = dissolveAngles;
  if (!(angle >= least && angle <= most)) throw new Error(`--angle takes ${least} to ${most} degrees, not “${values.angle}”.`);
  return { path, out: values.out, angle };
}

/** Metres; vertices are places, however many corners meet there. */
const measured = (mesh: PolyMesh) => ({
  faces: faceCount(mesh),
  triangles: triangleCount(mesh),
  vertices: adjacencyOf(mesh).pointCount,
  area: areaOf(mesh),
  volume: volumeOf(mesh),
});

/** A model with another mesh made of its own, written; what it had before and has after. */
async function written({ mesh, keep }: ReadModelResult, { kit }: KitState, made: PolyMesh, out: string): Promise<object> {
  const model = { ...kit.models[0]!, faces: faceCount(made) };
  const glb = await writeGlb({ ...kit, models: [model] }, [{ model, mesh: made, seats: emptySeats(model.faces), files: keep }], {
    codecs: nodeCodecs,
  });
  mkdirSync(dirname(out), { recursive: true });
  writeFileSync(out, glb);
  return { before: measured(mesh), after: measured(made) };
}

/** Writes the model, as it came but for the cut, and says what it had before and has after. */
export function cutFile(result: ReadModelResult, state: KitState, { plane, out }: ReturnType<typeof cutAsked>): Promise<object> {
  const { mesh } = result;
  const adjacency = adjacencyOf(mesh);
  const { points, cuts } = planPlaneCut(mesh, adjacency, plane);
  return written(result, state, cutFaces(mesh, adjacency, points, cuts).mesh, out);
}

/** The same without edges that part nothing in the file itself: materials, objects, groups and what lies on corners. */
export function dissolveFile(result: ReadModelResult, state: KitState, { angle, out }: ReturnType<typeof dissolveAsked>): Promise<object> {
  const { mesh } = result;
  const bare = { looks: new Uint32Array(faceCount(mesh)), at: [], seams: [] };
  return written(result, state, dissolve(mesh, adjacencyOf(mesh), bare, angle).mesh, out);
}
