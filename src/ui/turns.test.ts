import { afterEach, beforeEach, expect, it, vi } from 'vitest';
import { Turns } from './turns';

beforeEach(() => void vi.useFakeTimers());
afterEach(() => void vi.useRealTimers());

it('starts one after the other, each in a task of its own; what is not wanted any more holds up nothing', () => {
  const turns = new Turns();
  const started: string[] = [];
  const [a, b, c, d] = ['a', 'b', 'c', 'd'].map((name) => turns.take(() => started.push(name)));
  expect(started).toEqual([]);
  vi.runAllTimers();
  expect(started).toEqual(['a']);
  // One that waits leaves; the others go on in their order.
  turns.end(b!);
  turns.end(a!);
  turns.end(a!);
  expect(started).toEqual(['a']);
  vi.runAllTimers();
  expect(started).toEqual(['a', 'c']);
  // One leaves while it has its turn.
  turns.end(c!);
  vi.runAllTimers();
  turns.end(d!);
  vi.runAllTimers();
  turns.take(() => started.push('e'));
  vi.runAllTimers();
  expect(started).toEqual(['a', 'c', 'd', 'e']);
});
