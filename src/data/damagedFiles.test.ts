import { expect, it, vi } from 'vitest';
import { decodePicture } from '@/core/io/decodePicture';
import { faultOf, goodPicture } from '@tests/fuzzing';

it('damaged files of every kind are read or refused in words of ours', async () => {
  const faults: string[] = [];
  for (let seed = 1; seed <= 300; seed++) faults.push(...((await faultOf(seed)) ?? []));
  expect(faults).toEqual([]);
});

it('a decoder that a damaged picture left in disorder is renewed, and reads good ones as before', () => {
  const before = decodePicture('good.png', goodPicture);
  const renewed = vi.spyOn(WebAssembly, 'Instance');
  expect(() => decodePicture('torn.png', goodPicture.slice(0, -20))).toThrow(
    'torn.png: it cannot be read as a picture. Its contents do not',
  );
  expect(renewed).toHaveBeenCalledOnce();
  renewed.mockRestore();
  expect(decodePicture('good.png', goodPicture)).toEqual(before);
});
