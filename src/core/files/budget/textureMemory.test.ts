import { expect, it } from 'vitest';
import { textureMemory } from './textureMemory';

it('counts a texture’s bytes on the card, whole blocks for the smallest levels', () => {
  // 16, 8, 4, 2, 1: 341 texels; 16 + 4 + 1 + 1 + 1 blocks.
  expect(textureMemory(16, 16)).toEqual({ plain: 1024, withMips: 1364, blocks4: 184, blocks8: 368, roundedUp: (23 * 16) / 341 });
  // A strip: 8 × 1, 4 × 1, 2 × 1, 1 × 1.
  expect(textureMemory(8, 1)).toEqual({ plain: 32, withMips: 60, blocks4: 40, blocks8: 80, roundedUp: 80 / 15 });
  expect(textureMemory(5, 3)).toMatchObject({ plain: 60, blocks4: (2 + 1 + 1) * 8 });
});
