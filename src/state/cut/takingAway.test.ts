import { beforeEach, expect, it } from 'vitest';
import { openBoxAndFloor } from '@tests/openKits';
import { sameCorners } from '@/core/shapes/mesh/faceOrigins';

const { colorFaces } = await import('../color/coloring');
const { showModel, baseState, current } = await import('../kit/editor');
const { takeMesh } = await import('../kit/takeMesh');

beforeEach(openBoxAndFloor);

it('a mesh of which faces became one by their colors is not taken where one was colored meanwhile, and that color stays', async () => {
  showModel('floor');
  const { model, loaded } = current()!;
  const madeBy = baseState();
  const joined = sameCorners(new Int32Array(1));
  const made = { address: 'joined', packed: new Uint8Array(), loaded: { ...loaded!, id: 'joined' }, origins: joined };
  const taking = takeMesh(model, made, 'Joined', { madeBy });
  const [cell] = baseState().kit.sheets[0]!.cells;
  colorFaces(Uint32Array.of(4), cell!.id);
  await expect(taking).rejects.toThrow('changed while a new mesh was made of it; nothing was done');
  expect([current()!.model.mesh, current()!.model.faces, baseState().seats.floor!.cell[4]]).toEqual([model.mesh, 9, cell!.id]);
});
