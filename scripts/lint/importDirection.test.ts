import { Linter } from 'eslint';
import { expect, it } from 'vitest';
import { importDirection } from './importDirection.mjs';

const linter = new Linter();
const messages = (filename: string, code: string) =>
  linter
    .verify(code, [{ plugins: { layers: { rules: { direction: importDirection as never } } }, rules: { 'layers/direction': 'error' } }], {
      filename,
    })
    .map((m) => m.message);

it('lets imports point downward only', () => {
  expect(
    messages('src/views/color/Tray.js', "import { a } from '@/core/shapes/mesh/weld'; import { b } from '../../state/editor';"),
  ).toEqual([]);
  expect(messages('src/core/mesh/weld.js', "import { a } from '@/views/color/Tray';")).toEqual([
    'core must not import from views: imports point downward only.',
  ]);
  expect(messages('src/state/editor.js', "export * from '../app/page';")).toHaveLength(1);
  expect(messages('src/core/mesh/weld.js', "import { useState } from 'react';")).toEqual(['core must not import “react”.']);
});
