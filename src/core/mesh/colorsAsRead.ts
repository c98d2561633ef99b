import { rgbFromHex } from '../color/hex';
import { faceVertexColor } from '../seat/byMaterial';
import type { Raster } from '../sheet/raster';
import { faceCount, type PolyMesh } from './polyMesh';

/**
 * The color under which each face came in, 4 bytes for each face: its picture at the middle of its UVs, its vertex colors, or its material's
 * color; alpha 0 where it came without any. For showing faces that are not yet colored.
 */
export function colorsAsRead(mesh: PolyMesh, pictures: ReadonlyMap<string, Raster> = new Map()): Uint8Array {
  const faces = faceCount(mesh);
  const out = new Uint8Array(faces * 4);
  const slotColors = mesh.slots.map((s) => rgbFromHex(s.color));
  const uvs = mesh.uvSets[0];
  for (let f = 0; f < faces; f++) {
    const slot = mesh.slots[mesh.faceSlot[f]!]!;
    const picture = slot.picture ? pictures.get(slot.picture.toLowerCase()) : undefined;
    if (picture && uvs) out.set(sampleFace(mesh, f, uvs, picture), f * 4);
    else if (slot.given) out.set([...slotColors[mesh.faceSlot[f]!]!, 255], f * 4);
    else if (mesh.cornerColors) out.set([...faceVertexColor(mesh, f), 255], f * 4);
  }
  return out;
}

function sampleFace(mesh: PolyMesh, face: number, uvs: Float32Array, { width, height, data }: Raster): Uint8Array {
  let [u, v] = [0, 0];
  const start = mesh.faceStart[face]!;
  const end = mesh.faceStart[face + 1]!;
  for (let c = start; c < end; c++) {
    u += uvs[c * 2]! / (end - start);
    v += uvs[c * 2 + 1]! / (end - start);
  }
  const wrap = (t: number, size: number) => Math.min(size - 1, Math.floor((t - Math.floor(t)) * size)) || 0;
  const at = (wrap(v, height) * width + wrap(u, width)) * 4;
  return Uint8Array.of(data[at]!, data[at + 1]!, data[at + 2]!, 255);
}
