import { rgbFromHex } from '../../ground/color/hex';
import { faceVertexColor } from './byMaterial';
import type { Raster } from '../../ground/pictures/raster';
import { faceCount, type PolyMesh } from '../../shapes/mesh/polyMesh';

/** Pictures that faces came with, brought to one square size, one above the other. */
export interface PictureStack {
  size: number;
  /** Lower-case names, in the order of the layers. */
  names: string[];
  /** 4 bytes a texel. */
  data: Uint8Array;
}

/** Alpha of a face's color as read: nothing, a flat color, or else 1 + the layer of its picture. */
export const asReadAlpha = { none: 0, flat: 255, mostLayers: 250 } as const;

/** The pictures that slots name, each resampled to the nearest texel; `null` where there is none. */
export function stackPictures(mesh: PolyMesh, pictures: ReadonlyMap<string, Raster>, most = 512): PictureStack | null {
  const names = [...new Set(mesh.slots.flatMap((s) => s.picture?.toLowerCase() ?? []))]
    .filter((n) => pictures.has(n))
    .slice(0, asReadAlpha.mostLayers);
  if (!names.length || !mesh.uvSets[0]) return null;
  const largest = Math.max(...names.map((n) => Math.max(pictures.get(n)!.width, pictures.get(n)!.height)));
  const size = Math.min(most, 2 ** Math.ceil(Math.log2(largest)));
  const data = new Uint8Array(size * size * 4 * names.length);
  names.forEach((name, layer) => {
    const { width, height, data: from } = pictures.get(name)!;
    for (let y = 0; y < size; y++)
      for (let x = 0; x < size; x++) {
        const at = (Math.floor(((y + 0.5) / size) * height) * width + Math.floor(((x + 0.5) / size) * width)) * 4;
        data.set(from.subarray(at, at + 4), ((layer * size + y) * size + x) * 4);
      }
  });
  return { size, names, data };
}

/**
 * The color under which each face came in, 4 bytes for each face: its picture at the middle of its UVs, its
 * vertex colors, or its material's color; alpha as in `asReadAlpha`. For showing faces that are not yet
 * colored.
 */
export function colorsAsRead(
  mesh: PolyMesh,
  pictures: ReadonlyMap<string, Raster> = new Map(),
  layers: readonly string[] = [],
): Uint8Array {
  const faces = faceCount(mesh);
  const out = new Uint8Array(faces * 4);
  const slotColors = mesh.slots.map((s) => rgbFromHex(s.color));
  const uvs = mesh.uvSets[0];
  for (let f = 0; f < faces; f++) {
    const slot = mesh.slots[mesh.faceSlot[f]!]!;
    const picture = slot.picture ? pictures.get(slot.picture.toLowerCase()) : undefined;
    if (picture && uvs) {
      out.set(sampleFace(mesh, f, uvs, picture), f * 4);
      const layer = layers.indexOf(slot.picture!.toLowerCase());
      if (layer >= 0) out[f * 4 + 3] = layer + 1;
    } else if (slot.given) out.set([...slotColors[mesh.faceSlot[f]!]!, 255], f * 4);
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
