import { expect, it } from 'vitest';
import { decodePicture } from '@/core/ground/pictures/decodePicture';
import { faultOf, goodPicture } from '@tests/fuzzing';

it('damaged files of every kind are read or refused in words of ours', async () => {
  const faults: string[] = [];
  for (let seed = 1; seed <= 300; seed++) faults.push(...((await faultOf(seed)) ?? []));
  expect(faults).toEqual([]);
});

it('a decoder that a damaged picture left in disorder is renewed, and reads good ones as before', () => {
  const before = decodePicture('good.png', goodPicture);
  const { Instance } = WebAssembly;
  let renewed = 0;
  const construct = (target: typeof Instance, given: ConstructorParameters<typeof Instance>) => (renewed++, new target(...given));
  WebAssembly.Instance = new Proxy(Instance, { construct });
  expect(() => decodePicture('torn.png', goodPicture.slice(0, -20))).toThrow(
    'torn.png: it cannot be read as a picture. Its contents do not',
  );
  WebAssembly.Instance = Instance;
  expect(renewed).toBe(1);
  expect(decodePicture('good.png', goodPicture)).toEqual(before);
});
