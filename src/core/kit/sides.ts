import type { Model } from './kit';
import type { PolyMesh } from '../shapes/mesh/polyMesh';

/**
 * Whether faces of a slot are seen from both sides: as the artist set it for the model, else as their
 * material came.
 */
export const isDoubleSided = ({ sides }: Pick<Model, 'sides'>, { slots }: Pick<PolyMesh, 'slots'>, slot: number): boolean =>
  sides ? sides === 'both' : (slots[slot]?.doubleSided ?? false);
