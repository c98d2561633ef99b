import { Document } from '@gltf-transform/core';
import { expect, it } from 'vitest';
import { keptNodes, looksMeant, nodesToKeep } from './meantNames';

it('tells a name that someone gave from what programs call things', () => {
  for (const name of ['grip', 'Trigger_Pressed', 'Button A', 'xr-standard-thumbstick', 'Tür_links', 'lantern.glass', 'Hub2', 'mesh_door'])
    expect([name, looksMeant(name)]).toEqual([name, true]);
  for (const name of [
    '',
    'Cube',
    'Cube.001',
    'grip.004',
    'node_12',
    'mesh 3',
    'Object_7',
    'polySurface12',
    'pCube1',
    'RootNode',
    '17',
    'A',
    'Group-2 Shape',
    'model.glb',
    '3f2a9c1e-77aa-4b1c-9d00-aa11bb22cc33',
  ])
    expect([name, looksMeant(name)]).toEqual([name, false]);
});

it('keeps nodes for their names: meant ones, all that have one, or none', () => {
  const document = new Document();
  const named = (...names: string[]) => names.map((name) => document.createNode(name));
  const names = (which: 'meant' | 'named' | 'joined', nodes: ReturnType<typeof named>) =>
    [...keptNodes(nodes, which)].map((n) => n.getName());
  const few = named('grip', 'Cube.001', '');
  expect([names('meant', few), names('named', few), names('joined', few)]).toEqual([['grip'], ['grip', 'Cube.001'], []]);
  // Eight wheels are wheels; nine are numbered by a program.
  const wheels = (n: number) => named(...Array.from({ length: n }, (_, i) => `wheel ${i + 1}`));
  expect([names('meant', wheels(8)).length, names('meant', wheels(9)).length]).toEqual([8, 0]);
  const primitives = [{ node: 0, mesh: 0, primitive: 0 }];
  const source = { facePrimitive: new Uint16Array(1), cornerVertex: new Uint32Array(3) };
  const joins = { colored: 0, bare: 0 };
  expect(nodesToKeep({ source: { ...source, primitives } }, 'meant')).toBe('joined');
  expect(nodesToKeep({ source: { ...source, primitives: [{ ...primitives[0]!, apart: { meant: joins, named: joins } }] } }, 'meant')).toBe(
    'meant',
  );
});
