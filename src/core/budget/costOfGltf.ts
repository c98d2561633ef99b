import type { Accessor, Document } from '@gltf-transform/core';
import { meshNodes } from '../io/gltf/scenes';
import type { Cost } from './tally';

/**
 * What a glTF document costs to draw: primitives times the nodes that show them, vertices of all of these
 * (each once), encoded texture bytes.
 */
export function costOfGltf(document: Document): Cost {
  const materials = new Set<unknown>();
  const vertices = new Set<Accessor>();
  let drawCalls = 0;
  for (const node of meshNodes(document))
    for (const primitive of node.getMesh()!.listPrimitives()) {
      drawCalls++;
      materials.add(primitive.getMaterial());
      const position = primitive.getAttribute('POSITION');
      if (position) vertices.add(position);
    }
  const gpuVertices = [...vertices].reduce((sum, a) => sum + a.getCount(), 0);
  const textures = document.getRoot().listTextures();
  return {
    materials: materials.size,
    drawCalls,
    textureBytes: textures.reduce((sum, t) => sum + (t.getImage()?.byteLength ?? 0), 0),
    gpuVertices,
  };
}
