import { isPainted, pixelsOf } from '../../kit/pixels';
import type { KitState, Model } from '../../kit/kit';
import { faceCount, type PolyMesh } from '../../shapes/mesh/polyMesh';
import { drawCallCounter, type DrawOptions } from './drawCalls';
import { firstEqualRows, type Column } from '../../shapes/mesh/rows';

/** What a model or kit costs a game to draw. */
export interface Cost {
  materials: number;
  drawCalls: number;
  /** Encoded bytes of all textures. */
  textureBytes: number;
  /** Distinct position, normal, UV and color, for each primitive: a seam splits vertices. */
  gpuVertices: number;
  /** Those of them that are there beside another at the same place: since faces meet at a hard edge there, */
  atHardEdges: number;
  /** or since materials, colors or UVs do. */
  atBorders: number;
}

export interface Tally {
  drawCalls: number;
  /** The same once all faces are colored. */
  whenColored: number;
  colors: number;
  uncolored: number;
  faces: number;
}

/**
 * What stands at the top of every view. Draw calls: those with which the models leave as GLB under the same
 * options.
 */
export function tallyOf(
  { kit, seats, patches, pixels }: KitState,
  models: readonly Model[],
  meshOf: (model: Model) => PolyMesh | undefined,
  options: DrawOptions = {},
): Tally {
  const drawCallsOf = drawCallCounter(kit, { ...options, ...(patches && { patches }) });
  const tally: Tally = { drawCalls: 0, whenColored: 0, colors: 0, uncolored: 0, faces: 0 };
  const used = new Uint8Array(65536);
  for (const model of models) {
    const own = seats[model.id]!;
    for (let f = 0; f < own.cell.length; f++) {
      used[own.cell[f]!] = 1;
      if (own.cell[f] === 0) tally.uncolored++;
    }
    tally.faces += own.cell.length;
    const draws = drawCallsOf(model, own, meshOf(model));
    tally.drawCalls += draws;
    tally.whenColored += own.cell.includes(0) ? drawCallsOf(model, own, meshOf(model), true) : draws;
  }
  // Painted art has the colors of its texels.
  for (const { id, fill } of kit.sheets.flatMap((s) => s.cells)) {
    const own = used[id] && isPainted(fill) ? pixels?.[pixelsOf(fill.picture)] : undefined;
    if (!own) continue;
    used[id] = 0;
    for (const cell of own.cells) used[cell] = 1;
  }
  for (let id = 1; id < kit.nextCell; id++) tally.colors += used[id]!;
  return tally;
}

/** Distinct vertices that a graphics card gets for the faces of one primitive. `uvs`: 2 for each corner, or none. */
export function gpuVertices(mesh: PolyMesh, faces: ArrayLike<number>, uvs: Float32Array | undefined, faceNormals: Float32Array): number {
  const { columns, corners } = columnsOf(mesh, faces, uvs, faceNormals);
  return firstEqualRows(columns, corners).distinct;
}

/** Why there are so many vertices: how many places they lie at, and how many places and normals they have. */
export const placesOf = (columns: readonly Column[], count: number): { places: number; shaded: number } => ({
  places: firstEqualRows(columns.slice(0, 1), count).distinct,
  shaded: firstEqualRows(columns.slice(0, 2), count).distinct,
});

/** Position, normal, UV and color of each corner of some faces. */
function columnsOf(mesh: PolyMesh, faces: ArrayLike<number>, uvs: Float32Array | undefined, faceNormals: Float32Array) {
  let corners = 0;
  for (let i = 0; i < faces.length; i++) corners += mesh.faceStart[faces[i]! + 1]! - mesh.faceStart[faces[i]!]!;
  const positions = new Float32Array(corners * 3);
  const normals = new Float32Array(corners * 3);
  const uv = new Float32Array(corners * 2);
  const colors = new Uint8Array(corners * 4);
  let o = 0;
  for (let i = 0; i < faces.length; i++) {
    const f = faces[i]!;
    for (let c = mesh.faceStart[f]!; c < mesh.faceStart[f + 1]!; c++, o++) {
      const v = mesh.cornerVertex[c]! * 3;
      for (let k = 0; k < 3; k++) {
        positions[o * 3 + k] = mesh.positions[v + k]!;
        normals[o * 3 + k] = mesh.cornerNormals ? mesh.cornerNormals[c * 3 + k]! : faceNormals[f * 3 + k]!;
      }
      if (uvs) uv.set([uvs[c * 2]!, uvs[c * 2 + 1]!], o * 2);
      if (mesh.cornerColors) for (let k = 0; k < 4; k++) colors[o * 4 + k] = mesh.cornerColors[c * 4 + k]!;
    }
  }
  const columns: Column[] = [
    { data: positions, width: 3 },
    { data: normals, width: 3 },
    { data: uv, width: 2 },
    { data: colors, width: 4 },
  ];
  return { columns, corners };
}

/**
 * The cost of a mesh as it came in. Draw calls: one for each material of each object. `textureBytes`: of its
 * own pictures.
 */
export function costAsRead(mesh: PolyMesh, faceNormals: Float32Array, textureBytes: number): Cost {
  const primitives = new Map<number, number[]>();
  const { facePrimitive } = mesh.source ?? {};
  for (let f = 0; f < faceCount(mesh); f++) {
    const key = facePrimitive ? facePrimitive[f]! : mesh.faceSlot[f]! * 65536 + mesh.faceObject[f]!;
    const list = primitives.get(key);
    if (list) list.push(f);
    else primitives.set(key, [f]);
  }
  let vertices = 0;
  const all: number[] = [];
  const counted = new Set<string>();
  for (const [key, faces] of primitives) {
    // Vertices of a mesh that several nodes show are on the card once.
    const p = facePrimitive && mesh.source!.primitives?.[key];
    if (p) {
      const name = `${p.mesh},${p.primitive}`;
      if (counted.has(name)) continue;
      counted.add(name);
    }
    vertices += gpuVertices(mesh, faces, mesh.uvSets[0], faceNormals);
    for (const f of faces) all.push(f);
  }
  const { columns, corners } = columnsOf(mesh, all, undefined, faceNormals);
  const { places, shaded } = placesOf(columns, corners);
  return {
    materials: new Set(mesh.faceSlot).size,
    drawCalls: primitives.size,
    textureBytes,
    gpuVertices: vertices,
    atHardEdges: shaded - places,
    atBorders: vertices - shaded,
  };
}
