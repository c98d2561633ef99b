import type { Document } from '@gltf-transform/core';
import { costOfGltf } from './costOfGltf';

/** What a variant adds to a file that holds it. */
export interface VariantCost {
  pictures: number;
  pictureBytes: number;
  /** Vertices with a further UV set, at 8 bytes each. */
  uvVertices: number;
  drawCalls: number;
  vertices: number;
}

/** Reads it off the file with the variant and the one without, so that it is what leaves. */
export function costOfVariant(withIt: Document, without: Document): VariantCost {
  const [a, b] = [figuresOf(withIt), figuresOf(without)];
  return {
    pictures: a.pictures - b.pictures,
    pictureBytes: a.pictureBytes - b.pictureBytes,
    uvVertices: a.uvVertices - b.uvVertices,
    drawCalls: a.drawCalls - b.drawCalls,
    vertices: a.vertices - b.vertices,
  };
}

function figuresOf(document: Document): VariantCost {
  const root = document.getRoot();
  const { drawCalls, gpuVertices } = costOfGltf(document);
  const textures = root.listTextures();
  let uvVertices = 0;
  for (const mesh of root.listMeshes())
    for (const primitive of mesh.listPrimitives()) {
      const sets = primitive.listSemantics().filter((s) => s.startsWith('TEXCOORD_')).length;
      uvVertices += Math.max(0, sets - 1) * primitive.getAttribute('POSITION')!.getCount();
    }
  return {
    pictures: textures.length,
    pictureBytes: textures.reduce((sum, t) => sum + (t.getImage()?.byteLength ?? 0), 0),
    uvVertices,
    drawCalls,
    vertices: gpuVertices,
  };
}
