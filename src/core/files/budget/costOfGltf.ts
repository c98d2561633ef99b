import type { Accessor, Document } from '@gltf-transform/core';
import { meshNodes } from '../gltf/scenes';
import { placesOf, type Cost } from './tally';

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
  const { places, shaded } = placesInMeshes(document, vertices);
  const textures = document.getRoot().listTextures();
  return {
    materials: materials.size,
    drawCalls,
    textureBytes: textures.reduce((sum, t) => sum + (t.getImage()?.byteLength ?? 0), 0),
    gpuVertices,
    atHardEdges: shaded - places,
    atBorders: gpuVertices - shaded,
  };
}

/** Places, and places with normals, at which vertices of each mesh lie, over those that are drawn. */
function placesInMeshes(document: Document, drawn: ReadonlySet<Accessor>): { places: number; shaded: number } {
  const sum = { places: 0, shaded: 0 };
  const seen = new Set<Accessor>();
  for (const mesh of document.getRoot().listMeshes()) {
    const positions: number[] = [];
    const normals: number[] = [];
    for (const primitive of mesh.listPrimitives()) {
      const position = primitive.getAttribute('POSITION');
      if (!position || !drawn.has(position) || seen.has(position)) continue;
      seen.add(position);
      const normal = primitive.getAttribute('NORMAL');
      const at = [0, 0, 0];
      for (let v = 0; v < position.getCount(); v++) {
        positions.push(...position.getElement(v, at));
        normals.push(...(normal?.getElement(v, at) ?? [0, 0, 0]));
      }
    }
    const columns = [
      { data: positions, width: 3 },
      { data: normals, width: 3 },
    ];
    const own = placesOf(columns, positions.length / 3);
    sum.places += own.places;
    sum.shaded += own.shaded;
  }
  return sum;
}
