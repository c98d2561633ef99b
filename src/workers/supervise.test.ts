import { afterEach, beforeEach, expect, it, vi } from 'vitest';
import { supervise, type Started } from './supervise';

interface Api {
  ping: () => Promise<unknown>;
  sum: (a: number, b: number) => Promise<number>;
  load: (mesh: string) => Promise<string>;
  refuse: () => Promise<never>;
}

/** Workers that answer only what they are told to, and die when they are told to. */
function stand(kinds: ('answers' | 'silent' | 'never starts')[]) {
  const log: string[] = [];
  const ends: ((why: unknown) => void)[] = [];
  const never = new Promise<never>(() => undefined);
  const start = (): Started<Api> => {
    const number = ends.length;
    const kind = kinds[number]!;
    const lost = new Promise<unknown>((resolve) => ends.push(resolve));
    if (kind === 'never starts') ends[number]!('its script could not be loaded');
    const told =
      <T>(what: string, value: () => T) =>
      () => {
        log.push(`${number} ${what}`);
        return kind === 'answers' ? Promise.resolve().then(value) : never;
      };
    const remote: Api = {
      ping: () => (kind === 'answers' ? Promise.resolve() : never),
      sum: (a, b) => told('sum', () => a + b)(),
      load: (mesh) => told(`load ${mesh}`, () => mesh)(),
      refuse: told('refuse', () => {
        throw new Error('This file is torn.');
      }),
    };
    return { remote, lost, end: () => log.push(`${number} ended`) };
  };
  const restore = async (remote: Api) => void (await remote.load('bell'));
  const { remote: api, stop } = supervise(start, restore, { pingEvery: 100, patience: 1000 });
  return { api, stop, log, lose: (number: number) => ends[number]!('it ended') };
}

beforeEach(() => {
  vi.useFakeTimers();
  vi.spyOn(console, 'error').mockImplementation(() => undefined);
});
afterEach(() => vi.useRealTimers());

it('asks again what was asked of a worker that ended, once the next one holds what the first held', async () => {
  const { api, log, lose } = stand(['silent', 'answers']);
  const asked = api.sum(2, 3);
  await vi.advanceTimersByTimeAsync(0);
  lose(0);
  expect(await asked).toBe(5);
  expect(log).toEqual(['0 sum', '0 ended', '1 load bell', '1 sum']);
  await expect(api.refuse()).rejects.toThrow('This file is torn.');
  // A worker that nobody waits for is replaced as well, when it is next needed.
  expect(await api.sum(1, 1)).toBe(2);
});

it('gives up a worker that answers nothing, but not one that is only slow', async () => {
  const { api, log } = stand(['silent', 'answers']);
  const asked = api.sum(2, 3);
  await vi.advanceTimersByTimeAsync(950);
  expect(log).toEqual(['0 sum']);
  await vi.advanceTimersByTimeAsync(300);
  expect(await asked).toBe(5);
});

it('fails with a word what loses two workers, and goes on with a third', async () => {
  const { api, lose } = stand(['never starts', 'silent', 'answers']);
  const asked = api.sum(2, 3);
  const failed = expect(asked).rejects.toThrow('stopped twice');
  await vi.advanceTimersByTimeAsync(0);
  lose(1);
  await failed;
  expect(await api.sum(4, 4)).toBe(8);
});

it('refuses with a word what was asked of a worker that is stopped, and asks none of it again', async () => {
  const { api, stop, log } = stand(['silent', 'answers']);
  const asked = api.sum(2, 3);
  const failed = expect(asked).rejects.toThrow('Its kit was closed.');
  await vi.advanceTimersByTimeAsync(0);
  stop('Its kit was closed.');
  await failed;
  await vi.advanceTimersByTimeAsync(5000);
  expect(log).toEqual(['0 sum', '0 ended']);
});
