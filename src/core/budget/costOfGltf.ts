import type { Document } from '@gltf-transform/core';
import { firstEqualRows, type Column } from '../mesh/rows';
import { meshNodes } from '../io/gltf/readGltf';
import type { Cost } from './tally';

/** What a glTF document costs to draw: primitives times the nodes that show them, distinct vertices for each primitive, encoded texture bytes. */
export function costOfGltf(document: Document): Cost {
  const root = document.getRoot();
  const materials = new Set<unknown>();
  const shown = new Set<unknown>();
  let drawCalls = 0;
  let gpuVertices = 0;
  for (const node of meshNodes(document)) {
    const mesh = node.getMesh()!;
    for (const primitive of mesh.listPrimitives()) {
      drawCalls++;
      materials.add(primitive.getMaterial());
      if (shown.has(primitive)) continue;
      shown.add(primitive);
      const columns: Column[] = ['POSITION', 'NORMAL', 'TEXCOORD_0', 'COLOR_0'].flatMap((name) => {
        const a = primitive.getAttribute(name);
        return a ? [{ data: a.getArray()!, width: a.getElementSize() }] : [];
      });
      gpuVertices += firstEqualRows(columns, primitive.getAttribute('POSITION')?.getCount() ?? 0).distinct;
    }
  }
  const textureBytes = root.listTextures().reduce((sum, t) => sum + (t.getImage()?.byteLength ?? 0), 0);
  return { materials: materials.size, drawCalls, textureBytes, gpuVertices };
}
