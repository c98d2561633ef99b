import { expect, it } from 'vitest';
import { before, looked, walked, type Visitor } from './walk';

const still: Visitor = { x: 0, z: 0, yaw: 0, pitch: 0, goal: null };
const none = { ahead: 0, aside: 0, turn: 0 };
const at = ({ x, z }: Visitor) => [x, z].map((v) => Math.round(v * 1e6) / 1e6 + 0);

it('walks where it looks, to its right, and turns to its left', () => {
  expect(at(walked(still, { ...none, ahead: 1 }, 1))).toEqual([0, -3.2]);
  expect(at(walked(still, { ...none, ahead: -1 }, 0.5))).toEqual([0, 1.6]);
  expect(at(walked(still, { ...none, aside: 1 }, 1))).toEqual([3.2, 0]);
  const left = { ...still, yaw: Math.PI / 2 };
  expect(at(walked(left, { ...none, ahead: 1 }, 1))).toEqual([-3.2, 0]);
  expect(at(walked(left, { ...none, aside: 1 }, 1))).toEqual([0, -3.2]);
  // Both at once is no faster.
  expect(Math.hypot(...at(walked(still, { ...none, ahead: 1, aside: 1 }, 1)))).toBeCloseTo(3.2);
  expect(walked(still, { ...none, turn: 1 }, 0.5)).toMatchObject({ x: 0, z: 0, yaw: 0.8 });
  expect(walked(still, none, 1)).toBe(still);
});

it('walks to a goal and stops there; a step ends the way', () => {
  const going: Visitor = { ...still, goal: [3, 4] };
  expect(at(walked(going, none, 1))).toEqual([1.92, 2.56]);
  expect(walked(going, none, 1.56)).toMatchObject({ x: 3, z: 4, goal: null });
  expect(walked(going, none, 9)).toMatchObject({ x: 3, z: 4, goal: null });
  expect(walked({ ...still, goal: [0, 0] }, none, 1)).toMatchObject({ x: 0, z: 0, goal: null });
  expect(walked(going, { ...none, ahead: 1 }, 1).goal).toBeNull();
  expect(walked(going, { ...none, turn: 1 }, 1)).toMatchObject({ yaw: 1.6, goal: [3, 4] });
});

it('looks no further up than almost straight, and stands before what it goes to', () => {
  expect(looked(still, 0.2, 9)).toMatchObject({ yaw: 0.2, pitch: 1.45 });
  expect(looked(still, 0, -9).pitch).toBe(-1.45);
  expect(before(still, [10, 5, 0], 4)).toMatchObject({ x: 6, z: 0, yaw: -Math.PI / 2 });
  expect(before(still, [0, 0, 10], 4)).toMatchObject({ z: 6 });
  expect(Math.abs(before(still, [0, 0, 10], 4).yaw)).toBeCloseTo(Math.PI);
  // Nearer than that it only turns.
  expect(before(still, [0, 0, -3], 4)).toMatchObject({ x: 0, z: 0, yaw: 0 });
});
