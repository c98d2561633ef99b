import { openBoxAndFloor, ramp } from '@tests/openKits';
import fc from 'fast-check';
import { beforeEach, expect, it } from 'vitest';
import { baseState, current, showModel, useEditor } from '../kit/editor';
import { undoEdit } from '../kit/edits';
import { dispatch } from '../kit/edits';
import { addSheet, removeSheet } from '../color/sheets';
import { chooseCell, stepFaces } from '../color/coloring';
import { useColoring } from '../chosen/coloringState';
import { usePaint, type PaintState } from '../chosen/paint';
import { usePhrase } from '../chosen/phrase';
import { usePick } from '../chosen/pickState';
import { symmetryInView } from '../pick/symmetries';
import { artInHand, ownersIn } from './artInHand';
import { makeModelPaintable } from './makePaintable';
import { paintAt, pointAtTexel, Stroke, takeColorAt, wordsOfTexel } from './painting';

const texels = () => [...artInHand()!.pixels.cells];
const width = () => artInHand()!.pixels.width;
const edits = () => useEditor.getState().history.cursor;
/** A texel under a face, and all under it. */
const under = (face: number) =>
  [...ownersIn(artInHand()!).face].flatMap((f, t) => (f === face ? [[t % width(), Math.floor(t / width())] as const] : []));

beforeEach(async () => {
  await openBoxAndFloor();
  usePaint.setState(usePaint.getInitialState());
  usePhrase.setState({ mirror: 'nowhere', mirrorAxis: null });
  showModel('box');
  dispatch({ kind: 'seat', model: 'box', spans: Uint32Array.of(0, 6, 0, ramp(0)[1]!) });
  await makeModelPaintable(4);
  usePaint.setState({ isOpen: true });
  chooseCell(ramp(1)[0]!);
});

it('sets exactly what was lit, wherever it is pressed and whatever the phrase says', () => {
  const says = fc.record({
    form: fc.constantFrom<PaintState['form']>('dots', 'touching', 'everywhere'),
    sets: fc.constantFrom<PaintState['sets']>('color', 'darker', 'lighter', 'nothing', 'noise', 'checker'),
    size: fc.integer({ min: 1, max: 5 }),
    shape: fc.constantFrom<PaintState['shape']>('square', 'round'),
    onPicked: fc.boolean(),
  });
  const picked = fc.subarray([0, 1, 2, 3, 4, 5]);
  const { width: w, height: h } = artInHand()!.pixels;
  fc.assert(
    fc.property(says, picked, fc.nat(w - 1), fc.nat(h - 1), (said, faces, x, y) => {
      usePaint.setState(said);
      usePick.getState().set((list) => list.fill(0).forEach((_, f) => (list[f] = faces.includes(f) ? 1 : 0)));
      pointAtTexel([x, y]);
      const lit = new Set(usePaint.getState().lit!.texels);
      const before = texels();
      const count = edits();
      Stroke.begin([x, y])!.end([x, y]);
      const changed = texels().flatMap((c, t) => (c === before[t] ? [] : [t]));
      expect(changed.filter((t) => !lit.has(t))).toEqual([]);
      // What a color sets has it everywhere; no texel crosses what is picked.
      if (said.sets === 'color') for (const t of lit) expect(texels()[t]).toBe(ramp(1)[0]);
      if (said.onPicked && faces.length) for (const t of lit) expect(faces).toContain(ownersIn(artInHand()!).face[t]);
      expect(edits() - count).toBe(changed.length ? 1 : 0);
      if (changed.length) undoEdit();
      expect(texels()).toEqual(before);
    }),
    { seed: 8, numRuns: 60 },
  );
});

it('a stroke is one undo, steps once, ends where it is undone on its way, and spares locked regions', () => {
  const [a, b, c] = under(0) as [readonly [number, number], readonly [number, number], readonly [number, number]];
  const count = edits();
  const stroke = Stroke.begin(a)!;
  stroke.moveTo(b);
  stroke.moveTo(c);
  expect([edits() - count, texels().filter((t) => t === ramp(1)[0]).length]).toEqual([1, 3]);
  undoEdit();
  stroke.moveTo(a);
  stroke.end(b);
  expect(texels().filter((t) => t === ramp(1)[0]).length).toBe(0);
  usePaint.setState({ sets: 'lighter' });
  const stepping = Stroke.begin(a)!;
  for (const at of [b, a, b, a]) stepping.moveTo(at);
  stepping.end(a);
  expect(wordsOfTexel(a)).toContain(current()!.sheet.cells.find((own) => own.id === ramp(0)[2])!.role);
  const index = baseState().kit.models.findIndex((m) => m.id === 'box');
  const before = baseState().kit.models[index]!;
  dispatch({ kind: 'region', model: 'box', spans: Uint32Array.of(0, 1, 0, 1) });
  dispatch({ kind: 'put', list: 'models', of: 'kit', index, before, after: { ...before, regions: [{ id: 1, name: 'eyes', cell: 0, locked: true }] } }); // prettier-ignore
  const was = texels();
  usePaint.setState({ sets: 'nothing' });
  paintAt(a);
  expect(texels()).toEqual(was);
  usePaint.setState({ size: 16 });
  paintAt(a);
  expect(under(0).every(([x, y]) => texels()[y * width() + x] === was[y * width() + x])).toBe(true);
  expect(texels()).not.toEqual(was);
});

it('goes across the model’s plane with its twin, or instead of it', async () => {
  usePhrase.setState({ mirror: 'across', mirrorAxis: 'x' });
  await symmetryInView();
  // Faces 4 and 5 are the sides of the box to the left and right.
  const [at] = under(4);
  pointAtTexel(at!);
  const lit = [...usePaint.getState().lit!.texels].map((t) => ownersIn(artInHand()!).face[t]);
  expect(lit.sort()).toEqual([4, 5]);
  usePhrase.setState({ mirror: 'instead' });
  pointAtTexel(at!);
  expect([...usePaint.getState().lit!.texels].map((t) => ownersIn(artInHand()!).face[t])).toEqual([5]);
  // On a face that lies across the plane a texel has its twin beside it.
  usePhrase.setState({ mirror: 'across' });
  for (const face of [0, 1, 2, 3]) {
    pointAtTexel(under(face)[0]!);
    const own = [...usePaint.getState().lit!.texels];
    expect([own.length, ...own.map((t) => ownersIn(artInHand()!).face[t])]).toEqual([2, face, face]);
  }
});

it('a sheet whose colors texels show stays, as one does on which faces sit', () => {
  addSheet();
  const [, added] = baseState().kit.sheets;
  const cell = added!.cells.find((c) => c.fill.kind === 'solid')!;
  chooseCell(cell.id);
  paintAt(under(0)[0]!);
  removeSheet(added!);
  expect(baseState().kit.sheets.map((s) => s.id)).toContain(added!.id);
  undoEdit();
  removeSheet(added!);
  expect(baseState().kit.sheets).toHaveLength(1);
});

it('while texels are painted a color of the tray is the brush’s, and colors no picked faces', () => {
  usePick.getState().set((list) => list.fill(1));
  const seats = [...current()!.cells];
  usePaint.setState({ sets: 'nothing' });
  chooseCell(ramp(0)[0]!);
  expect([usePaint.getState().sets, useColoring.getState().cell, [...current()!.cells]]).toEqual(['color', ramp(0)[0], seats]);
  stepFaces(1);
  expect([useColoring.getState().cell, [...current()!.cells]]).toEqual([ramp(0)[1], seats]);
  usePaint.setState({ sets: 'noise' });
  chooseCell(ramp(1)[0]!);
  expect(usePaint.getState().sets).toBe('noise');
  usePaint.setState({ sets: 'darker' });
  takeColorAt(under(0)[0]!);
  expect([usePaint.getState().sets, useColoring.getState().cell]).toEqual(['color', ramp(0)[1]]);
  useColoring.setState({ cell: 0 });
  expect(Stroke.begin(under(0)[0]!)).toBeNull();
});
