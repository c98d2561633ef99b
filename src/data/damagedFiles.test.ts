import { expect, it } from 'vitest';
import { faultOf } from '@tests/fuzzing';

it('damaged files of every kind are read or refused in words of ours', async () => {
  const faults: string[] = [];
  for (let seed = 1; seed <= 300; seed++) faults.push(...((await faultOf(seed)) ?? []));
  expect(faults).toEqual([]);
});
