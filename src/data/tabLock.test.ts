import { afterEach, expect, it, vi } from 'vitest';
import { contentAddress } from '@/core/ground/bytes/pack';
import { lockKit, takeOver } from './tabLock';

afterEach(() => vi.unstubAllGlobals());

it('lets one tab have a kit where there are no locks, and another take it over, also from one that does not answer', async () => {
  vi.stubGlobal('navigator', {});
  const told: string[] = [];
  const asked = (tab: string) => async () => void told.push(tab);
  const first = await lockKit('kBell', asked('first'));
  expect(first).not.toBeNull();
  expect(await lockKit('kBell', asked('second'))).toBeNull();
  expect(await lockKit('kBuoy', asked('other'))).not.toBeNull();
  const second = await takeOver('kBell', asked('second'));
  expect(told).toEqual(['first']);
  expect(await lockKit('kBell', asked('third'))).toBeNull();
  second.release();
  const third = (await lockKit('kBell', asked('third')))!;
  expect(third).not.toBeNull();
  third.release();
});

it('gives bytes the same address with and without the digest of the browser', async () => {
  const bytes = Uint8Array.from({ length: 1000 }, (_, i) => i);
  const address = await contentAddress(bytes);
  vi.stubGlobal('crypto', {});
  expect(await contentAddress(bytes)).toBe(address);
});
