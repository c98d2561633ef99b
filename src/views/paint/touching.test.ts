import { afterEach, beforeEach, expect, it, vi } from 'vitest';
import { touchPainting } from './touching';

let told: string[] = [];
let now = 0;
const say = (word: string) => (e: PointerEvent) => void told.push(`${word} ${e.clientX}`);
const hands = () =>
  touchPainting<PointerEvent>({ begin: say('begin'), move: say('move'), end: say('end'), leave: () => void told.push('leave') });
const at = (id: number, x: number, more: Partial<PointerEvent> = {}) =>
  ({ pointerId: id, pointerType: 'touch', clientX: x, clientY: 0, width: 20, height: 20, timeStamp: now, ...more }) as PointerEvent;

beforeEach(() => {
  vi.useFakeTimers();
  [told, now] = [[], 5000];
});
afterEach(() => vi.useRealTimers());

it('one finger paints: once it moves, once a moment has passed, or where it is lifted at once', () => {
  const hand = hands();
  hand.down(at(1, 0));
  hand.move(at(1, 3));
  expect(told).toEqual([]);
  hand.move(at(1, 9));
  hand.up(at(1, 12));
  expect(told).toEqual(['begin 0', 'move 9', 'end 12']);
  told = [];
  hand.down(at(2, 50));
  vi.advanceTimersByTime(120);
  expect(told).toEqual(['begin 50']);
  hand.up(at(2, 50));
  told = [];
  hand.down(at(3, 70));
  hand.up(at(3, 70));
  expect(told).toEqual(['begin 70', 'end 70']);
});

it('two fingers set nothing, and a second one that comes later ends what the first began', () => {
  const hand = hands();
  hand.down(at(1, 0));
  hand.down(at(2, 100));
  vi.advanceTimersByTime(500);
  hand.move(at(1, 40));
  hand.up(at(2, 100));
  hand.move(at(1, 60));
  hand.up(at(1, 60));
  expect(told).toEqual([]);
  hand.down(at(3, 0));
  hand.move(at(3, 20));
  hand.down(at(4, 90));
  hand.move(at(3, 30));
  hand.up(at(4, 90));
  hand.up(at(3, 30));
  expect(told).toEqual(['begin 0', 'move 20', 'leave']);
});

it('a palm does nothing: broad touches, and all of them while a pen is near; pens and mice are left alone', () => {
  const hand = hands();
  hand.down(at(1, 0, { width: 80 }));
  hand.move(at(1, 40));
  hand.up(at(1, 40));
  expect(hand.move(at(9, 5, { pointerType: 'pen' }))).toBe(false);
  now += 300;
  hand.down(at(2, 0));
  hand.move(at(2, 40));
  hand.up(at(2, 40));
  expect(told).toEqual([]);
  now += 800;
  hand.down(at(3, 0));
  hand.up(at(3, 0));
  expect(told).toEqual(['begin 0', 'end 0']);
  expect(hand.down(at(4, 0, { pointerType: 'mouse' }))).toBe(false);
});
