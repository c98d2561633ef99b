// Parts of kits that tests are made of.
import type { Hex } from '@/core/ground/color/hex';
import type { Fill, Model } from '@/core/kit/kit';

/** A model made here: of one name and number, with nothing said of it but what is told. */
export const modelOf = (id: string, faces: number, sheet = '', more: Partial<Model> = {}): Model => ({
  ...{ id, name: id, mesh: 'x', faces, sheet, regions: [], slots: [], seams: [] },
  source: { format: 'made', name: id, files: [] },
  ...more,
});

/** A gradient of two stops along an axis. */
export const gradientOf = (
  axis: 'x' | 'y',
  first: Hex = '#000000',
  last: Hex = '#ffffff',
  mix: 'oklab' | 'srgb' = 'oklab',
): Extract<Fill, { kind: 'gradient' }> => ({ kind: 'gradient', axis, mix, stops: [{ at: 0, color: first }, { at: 1, color: last }] }); // prettier-ignore
