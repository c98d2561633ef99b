import { beforeEach, expect, it } from 'vitest';
import { openBoxAndFloor } from '@tests/openKits';

const { showModel } = await import('../kit/editor');
const { pointAtFace, turnSpot } = await import('../pick/picking');
const { usePhrase } = await import('../chosen/phrase');
const { cutOftener, refreshCut, useCut } = await import('./cutting');

beforeEach(openBoxAndFloor);

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
  usePhrase.setState({ act: 'cut', scope: 'flat' });
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
