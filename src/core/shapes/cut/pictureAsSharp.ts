import { areaOf, boundsOf, largestSide } from '../mesh/measure';
import type { PolyMesh } from '../mesh/polyMesh';

/**
 * How many texels a picture of a whole model needs that shows a border of color as sharp as an edge does where the model's longest side
 * is so many pixels long: each texel no larger than a pixel, everywhere on its faces. 0 for a model without a size.
 */
export function pictureAsSharp(mesh: PolyMesh, pixels: number): number {
  const side = largestSide(boundsOf(mesh));
  return side > 0 ? Math.ceil(areaOf(mesh) * (pixels / side) ** 2) : 0;
}
