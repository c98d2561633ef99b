import { afterEach, beforeEach, expect, it, vi } from 'vitest';
import { openBoxAndFloor } from '@tests/openKits';

const { undoEdit } = await import('../kit/edits');
const { useEditor } = await import('../kit/editor');
const { makeVariant } = await import('../laying/variants');
const { useAnnouncement } = await import('../told/announce');
const stage = await import('./stage');
const { useStage, placementsNow } = stage;

const at = () => placementsNow().map((p) => p.at);
const undos = () => useEditor.getState().history.cursor;

beforeEach(async () => {
  await openBoxAndFloor();
  useStage.setState({ step: 1 });
  vi.useFakeTimers({ toFake: ['Date'], now: 1e6 });
});
afterEach(() => void vi.useRealTimers());

it('places the model in hand on the grid, and lets a coloring of another model go', () => {
  const own = makeVariant({ name: 'Only of the box', model: 'box' })!;
  useStage.setState({ variant: own, turn: 30, step: 0.5 });
  stage.holdModel('box');
  stage.placeAt([1.3, 0.2, -0.8]);
  stage.holdModel('floor');
  expect(useStage.getState()).toMatchObject({ act: 'place', variant: null, chosen: [] });
  stage.placeAt([2, 0, 0]);
  expect(placementsNow().map(({ model, variant, turn }) => [model, variant, turn])).toEqual([
    ['box', own, 30],
    ['floor', undefined, 30],
  ]);
  expect(at()).toEqual([
    [1.5, 0.2, -1],
    [2, 0, 0],
  ]);
  expect(useStage.getState().chosen).toEqual([placementsNow()[1]!.id]);
  expect(stage.standingAt([0, 0, 0])).toMatchObject({ model: 'floor' });
  // What stands there in a coloring of its own model alone becomes another model in the default.
  stage.choosePlacement(placementsNow()[0]!.id);
  stage.makeChosen('floor');
  expect([placementsNow()[0]!.model, placementsNow()[0]!.variant]).toEqual(['floor', undefined]);
});

it('chooses one, or more of them; a click beside lets go', () => {
  const chosen = () => useStage.getState().chosen;
  stage.choosePlacement('a');
  stage.choosePlacement('b', true);
  expect(chosen()).toEqual(['a', 'b']);
  stage.choosePlacement('a', true);
  expect(chosen()).toEqual(['b']);
  stage.choosePlacement(null, true);
  expect(chosen()).toEqual(['b']);
  stage.choosePlacement(null);
  expect(chosen()).toEqual([]);
});

it('makes one undo of moves that follow each other, and another of a later one or another kind', () => {
  stage.holdModel('box');
  stage.placeAt([0, 0, 0]);
  const before = undos();
  for (let i = 0; i < 3; i++) {
    stage.moveChosen(1, 0, 0);
    vi.advanceTimersByTime(1100);
  }
  expect([at()[0], undos() - before]).toEqual([[3, 0, 0], 1]);
  stage.turnChosen(15);
  stage.moveChosen(0, 0, 1);
  vi.advanceTimersByTime(1300);
  stage.moveChosen(0, 0, 1);
  expect([at()[0], undos() - before]).toEqual([[3, 0, 2], 4]);
  undoEdit();
  expect(at()[0]).toEqual([3, 0, 1]);
});

it('pastes a step beside, further each time, and says what is taken off', () => {
  stage.holdModel('box');
  stage.placeAt([0, 0, 0]);
  stage.copyChosen();
  stage.pasteCopied();
  stage.pasteCopied();
  expect(at()).toEqual([
    [0, 0, 0],
    [1, 0, 1],
    [2, 0, 2],
  ]);
  expect(new Set(placementsNow().map((p) => p.name)).size).toBe(3);
  useStage.setState({
    chosen: placementsNow()
      .slice(1)
      .map((p) => p.id),
  });
  stage.removeChosen();
  expect([at(), useStage.getState().chosen, useAnnouncement.getState().text]).toEqual([[[0, 0, 0]], [], '2 models taken off the stage']);
});
