import { firstMade, type PolyMesh } from './polyMesh';

/**
 * Throws where the arrays of a mesh from outside do not fit together, so that nothing later reads past their
 * ends.
 */
export function checkMesh(value: unknown): PolyMesh {
  const mesh = value as Partial<PolyMesh>;
  const fail = (what: string): never => {
    throw new Error(`A mesh is broken: ${what}.`);
  };
  const { positions, faceStart, cornerVertex, faceSlot, faceObject, uvSets, slots, objects } = mesh;
  if (!(positions instanceof Float32Array) || !(faceStart instanceof Uint32Array) || !(cornerVertex instanceof Uint32Array))
    return fail('its main arrays are missing');
  if (
    !(faceSlot instanceof Uint16Array) ||
    !(faceObject instanceof Uint16Array) ||
    !Array.isArray(uvSets) ||
    !Array.isArray(slots) ||
    !Array.isArray(objects)
  )
    return fail('its lists are missing');
  if (positions.length % 3 || faceStart.length < 1 || faceStart[0] !== 0) fail('its lengths');
  const faces = faceStart.length - 1;
  const corners = cornerVertex.length;
  for (let f = 0; f < faces; f++) if (faceStart[f + 1]! < faceStart[f]! + 3) fail(`face ${f}`);
  if (faceStart[faces] !== corners) fail('the number of corners');
  const vertices = positions.length / 3;
  if (cornerVertex.some((v) => v >= vertices)) fail('a vertex that is not there');
  if (positions.some((p) => !Number.isFinite(p))) fail('a position that is not a number');
  const sized = (data: { length: number } | undefined, length: number, what: string) => data && data.length !== length && fail(what);
  sized(faceSlot, faces, 'slots');
  sized(faceObject, faces, 'objects');
  sized(mesh.faceGroup, faces, 'groups');
  sized(mesh.cornerNormals, corners * 3, 'normals');
  sized(mesh.cornerColors, corners * 4, 'colors');
  uvSets.forEach((uv) => sized(uv, corners * 2, 'UVs'));
  sized(mesh.source?.triangles, faces * 2, 'source triangles');
  sized(mesh.source?.facePrimitive, faces, 'source primitives');
  sized(mesh.source?.cornerVertex, corners, 'source vertices');
  sized(mesh.source?.reversed, faces, 'reversed faces');
  for (const { made } of mesh.source?.primitives ?? []) {
    if (!made) continue;
    const { between, share } = made;
    if (!(between instanceof Uint32Array) || !(share instanceof Float32Array) || between.length !== share.length * 2)
      fail('vertices that were made');
    // Only of those before it, so that none is made of itself.
    if (between.some((v, i) => v >= firstMade + (i >> 1)) || share.some((s) => !(s >= 0 && s <= 1))) fail('a vertex that was made');
  }
  for (let f = 0; f < faces; f++) {
    const known = firstMade + (mesh.source?.primitives?.[mesh.source.facePrimitive?.[f] ?? 0]?.made?.share.length ?? 0);
    for (let c = faceStart[f]!; c < faceStart[f + 1]!; c++)
      if ((mesh.source?.cornerVertex?.[c] ?? 0) >= known) fail('a vertex that was made');
  }
  if (faceSlot.some((s) => s >= slots.length) || faceObject.some((o) => o >= objects.length)) fail('a slot or object that is not there');
  return mesh as PolyMesh;
}
