import { existsSync, readFileSync, readdirSync } from 'node:fs';
import { Linter } from 'eslint';
import { expect, it } from 'vitest';
import { importDirection } from './importDirection.mjs';
import { districts } from './rooms.mjs';

const linter = new Linter();
const messages = (filename: string, code: string) =>
  linter
    .verify(code, [{ plugins: { layers: { rules: { direction: importDirection as never } } }, rules: { 'layers/direction': 'error' } }], {
      filename,
    })
    .map((m) => m.message);

it('lets imports point downward only', () => {
  expect(
    messages('src/views/color/Tray.js', "import { a } from '@/core/shapes/mesh/weld'; import { b } from '../../state/kit/editor';"),
  ).toEqual([]);
  expect(messages('src/core/shapes/mesh/weld.js', "import { a } from '@/views/color/Tray';")).toEqual([
    'core must not import from views: imports point downward only.',
  ]);
  expect(messages('src/state/kit/editor.js', "export * from '../../app/page';")).toHaveLength(1);
  expect(messages('src/core/shapes/mesh/weld.js', "import { useState } from 'react';")).toEqual(['core must not import “react”.']);
});

it('lets rooms import only from rooms before them, and names those that are in no list', () => {
  const up = 'core/shapes/mesh must not import from core/kit: imports point downward only.';
  expect(messages('src/core/shapes/mesh/weld.js', "import { a } from '../../kit/kit';")).toEqual([up]);
  expect(messages('src/core/kit/kit.js', "import { a } from '../shapes/mesh/weld'; import { b } from './edit/edit';")).toEqual([
    'core/kit must not import from core/kit/edit: imports point downward only.',
  ]);
  expect(messages('src/core/kit/edit/kinds/put.js', "import { a } from '../edit'; import { b } from '../../kit';")).toEqual([]);
  expect(messages('src/core/kit/kit.test.js', 'import { b } from "./edit/edit";')).toEqual([]);
  expect(messages('src/core/shapes/cuts/ring.js', '')).toEqual(['“shapes/cuts” is no room: name it in scripts/lint/rooms.mjs.']);
  expect(messages('src/core/cuts/ring.js', '')).toEqual(['“cuts” is no room: name it in scripts/lint/rooms.mjs.']);
  expect(messages('src/state/chosen/session.js', "import { a } from '@/state/kit/editor';")).toEqual([
    'state/chosen must not import from state/kit: imports point downward only.',
  ]);
});

it('finds nine districts at most, each opening with what it is and what its rooms hold', () => {
  expect(Object.keys(districts).length).toBeLessThanOrEqual(9);
  expect(readdirSync('src/core').sort()).toEqual(Object.keys(districts).sort());
  for (const [district, rooms] of Object.entries(districts)) {
    const opening = readFileSync(`src/core/${district}/README.md`, 'utf8');
    const told = [...opening.matchAll(/^- `(\w+)`: /gm)].map(([, room]) => room);
    expect(told.sort()).toEqual(rooms.filter((r) => r !== '.').sort());
    for (const room of rooms) expect(existsSync(`src/core/${district}/${room}`)).toBe(true);
  }
});
