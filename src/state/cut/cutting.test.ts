import { beforeEach, expect, it } from 'vitest';
import { openBoxAndFloor } from '@tests/openKits';

const { showModel } = await import('../kit/editor');
const { pickFaces, pointAtFace, turnSpot } = await import('../pick/picking');
const { letPickGo } = await import('../chosen/pickState');
const { usePhrase } = await import('../chosen/phrase');
const { cutOftener, refreshCut, useCut } = await import('./cutting');

beforeEach(async () => {
  usePhrase.setState(usePhrase.getInitialState());
  await openBoxAndFloor();
});

const lit = async () => {
  await refreshCut();
  return useCut.getState().lit!;
};
const edge = async () => {
  const { wish } = await lit();
  return wish.kind === 'rings' ? wish.cuts[0]!.edge : -1;
};

it('is lit where the pointer is, in the middle where none is, through the next edge by a key, and as often as is said', async () => {
  // Whatever a click would take by the words of picking.
  usePhrase.setState({ act: 'cut', scope: 'flat', cutWhere: 'pointed' });
  await pointAtFace(2, { edge: 1, corner: 1 });
  expect([await edge(), (await lit()).faces, (await lit()).share]).toEqual([9, 4, 0.5]);
  turnSpot();
  expect(await edge()).toBe(10);
  turnSpot();
  turnSpot();
  expect(await edge()).toBe(8);
  cutOftener(1);
  expect([(await lit()).lines.length, (await lit()).share]).toEqual([4 * 2 * 6, null]);
  cutOftener(-1);
  expect((await lit()).lines).toHaveLength(4 * 6);
  usePhrase.setState({ cutWhere: 'metres', cutMetres: 2 });
  await refreshCut();
  expect([useCut.getState().lit, useCut.getState().problem]).toEqual([null, expect.stringContaining('narrower than 2 m')]);
  showModel('floor');
  expect(await lit()).toBeNull();
});

it('inside an outline goes by the pick, or by the flat area where nothing is picked, with those like it, and mirrored', async () => {
  usePhrase.setState({ act: 'cut', cutAlong: 'border', cutMetres: 0.1 });
  await pointAtFace(2, { edge: 1, corner: 1 });
  expect([(await lit()).faces, (await lit()).heldBackTo]).toEqual([1, null]);
  usePhrase.setState({ cutAlike: true });
  expect((await lit()).faces).toBe(6);
  pickFaces([0, 4]);
  expect((await lit()).faces).toBe(2);
  usePhrase.setState({ borderOf: 'flat', cutAlike: false, cutMetres: 3 });
  expect((await lit()).heldBackTo).toBeCloseTo(0.475, 3);
  cutOftener(1);
  expect([usePhrase.getState().borderLines, (await lit()).heldBackTo]).toEqual([2, expect.closeTo(0.2375, 3)]);
  letPickGo();
  usePhrase.setState({ borderOf: 'pick', borderLines: 1, cutMetres: 0.1, mirror: 'across', mirrorAxis: 'z' });
  await pointAtFace(0, { edge: 1, corner: 1 });
  expect((await lit()).faces).toBe(2);
  usePhrase.setState({ mirror: 'instead' });
  const { wish } = await lit();
  expect(wish.kind === 'border' && [...wish.picked]).toEqual([0, 1, 0, 0, 0, 0]);
});

it('a stamp lies where the pointer is, or in the middle; on all that is alike, mirrored once each', async () => {
  usePhrase.setState({ act: 'cut', cutAlong: 'stamp' });
  const { stamp } = usePhrase.getState();
  usePhrase.setState({ stamp: { ...stamp, width: 0.25, height: 0.25 } });
  const stamps = async () => {
    const { wish } = await lit();
    return wish.kind === 'stamps' ? wish.stamps.map(({ face, frame }) => [face, ...frame.origin.map((v) => Number(v.toFixed(3)))]) : [];
  };
  await pointAtFace(1, { edge: 1, corner: 1, point: [0.25, 0.5, 1] });
  expect(await stamps()).toEqual([[1, 0.25, 0.5, 1]]);
  usePhrase.setState({ mirror: 'across', mirrorAxis: 'x' });
  expect(await stamps()).toEqual([
    [1, 0.25, 0.5, 1],
    [1, 0.75, 0.5, 1],
  ]);
  usePhrase.setState({ stamp: { ...usePhrase.getState().stamp, at: 'middle' } });
  expect(await stamps()).toEqual([[1, 0.5, 0.5, 1]]);
  usePhrase.setState({ cutAlike: true });
  expect(new Set((await stamps()).map(([face]) => face))).toEqual(new Set([0, 1, 2, 3, 4, 5]));
  expect(await stamps()).toHaveLength(6);
  usePhrase.setState({ mirror: 'nowhere', cutAlike: false, stamp: { ...usePhrase.getState().stamp, width: 1, height: 1 } });
  await refreshCut();
  expect([useCut.getState().lit, useCut.getState().problem]).toEqual([null, 'Nothing lies there to be cut.']);
});
