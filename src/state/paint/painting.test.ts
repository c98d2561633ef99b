import { openBoxAndFloor, ramp } from '@tests/openKits';
import fc from 'fast-check';
import { beforeEach, expect, it } from 'vitest';
import { baseState, current, showModel, useEditor } from '../kit/editor';
import { undoEdit } from '../kit/edits';
import { dispatch } from '../kit/edits';
import { addSheet, removeSheet } from '../color/sheets';
import { chooseCell, lockColor, stepFaces } from '../color/coloring';
import { useColoring } from '../chosen/coloringState';
import { usePaint, type PaintState } from '../chosen/paint';
import { usePhrase } from '../chosen/phrase';
import { usePick } from '../chosen/pickState';
import { chooseVariant, makeVariant } from '../laying/variants';
import { symmetryInView } from '../pick/symmetries';
import { facesOfSpans } from '@/core/shapes/pick/namedPicks';
import { differing, keptPatterns } from '@/core/faces/seat/keptPatterns';
import { placeCorners } from '@/core/faces/seat/placeFaces';
import { mirroredTexel } from '@/core/faces/seat/mirroredTexels';
import { artInHand, ownersIn } from './artInHand';
import { beginStroke } from './drawn';
import { changeMotif, newMotif, removeMotif } from './motifs';
import { keepPattern, letPatternGo, renewPattern, tunePattern } from './keptPatterns';
import { shownArt } from './reach';
import { makeModelPaintable } from './makePaintable';
import { copyToOtherSide, nudgeColor, paintAt, pointAlongLine, pointAtTexel, Stroke, takeColorAt, wordsOfTexel } from './painting';

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
    form: fc.constantFrom<PaintState['form']>('dots', 'stamps', 'touching', 'everywhere', 'onSheet', 'face', 'part', 'picked'),
    sets: fc.constantFrom<PaintState['sets']>('color', 'darker', 'lighter', 'nothing', 'noise', 'checker', 'motif'),
    motif: fc.constantFrom('shingles', 'rope', 'hair'),
    around: fc.constantFrom<PaintState['around']>('there', 'color'),
    among: fc.constantFrom<PaintState['among']>(
      [],
      [
        { cell: ramp(0)[0]!, weight: 2 },
        { cell: ramp(1)[2]!, weight: 1 },
      ],
    ),
    size: fc.integer({ min: 1, max: 5 }),
    shape: fc.constantFrom<PaintState['shape']>('square', 'round'),
    where: fc.constantFrom<PaintState['where']>('all', 'picked', 1),
    over: fc.subarray([0, ...ramp(0)]),
    isSparing: fc.boolean(),
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
      // None of a color that is spared, none but those that are meant.
      if (said.over.length) for (const t of lit) expect(said.over.includes(before[t]!)).toBe(!said.isSparing);
      // What a color sets has it everywhere; no texel crosses what is picked.
      if (said.sets === 'color') for (const t of lit) expect(texels()[t]).toBe(ramp(1)[0]);
      if (said.where === 'picked' && faces.length) for (const t of lit) expect(faces).toContain(ownersIn(artInHand()!).face[t]);
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

it('fills a face, a part, what is picked, and what touches across seams of the model', () => {
  const lit = (form: PaintState['form'], face: number) => {
    usePaint.setState({ form });
    pointAtTexel(under(face)[0]!);
    return [...usePaint.getState().lit!.texels];
  };
  const facesOf = (list: number[]) => [...new Set(list.map((t) => ownersIn(artInHand()!).face[t]))].sort();
  const all = [...ownersIn(artInHand()!).face].filter((f) => f >= 0).length;
  expect(facesOf(lit('face', 2))).toEqual([2]);
  expect(lit('face', 2)).toHaveLength(under(2).length);
  expect(lit('part', 2)).toHaveLength(all);
  usePick.getState().set((list) => list.fill(0).forEach((_, f) => (list[f] = f === 1 || f === 3 ? 1 : 0)));
  expect(facesOf(lit('picked', 2))).toEqual([1, 3]);
  // One color all around: what touches goes over every edge, though the art shows the sides apart.
  expect(lit('touching', 2)).toHaveLength(all);
  usePaint.setState({ form: 'face' });
  for (const face of [1, 3]) paintAt(under(face)[0]!);
  // Two sides that meet at an edge are one; what lies around is another color.
  const together = current()!.loaded!.adjacency;
  const meet = together.neighbour.some((n, c) => n >= 0 && together.cornerFace[c] === 1 && together.cornerFace[n] === 3);
  expect(facesOf(lit('touching', 1))).toEqual(meet ? [1, 3] : [1]);
  expect(facesOf(lit('touching', 0))).not.toContain(1);
});

it('draws a straight line from where the last stroke ended', () => {
  const row = under(0);
  const [from, to] = [row[0]!, row.at(-1)!];
  paintAt(from);
  pointAlongLine(to);
  const line = [...usePaint.getState().lit!.texels];
  expect(line.length).toBe(Math.max(Math.abs(to[0] - from[0]), Math.abs(to[1] - from[1])) + 1);
  const before = texels();
  paintAt(to, true);
  expect(texels().flatMap((c, t) => (c === before[t] ? [] : [t]))).toEqual(line.filter((t) => before[t] !== ramp(1)[0]));
});

it('goes on with a color a little to one side: of the sheet where it has that, else a new step beside it', () => {
  const [, middle] = ramp(1);
  chooseCell(middle!);
  const cells = () => current()!.sheet.cells.filter((c) => c.fill.kind === 'solid').length;
  const before = cells();
  nudgeColor('darker');
  const first = useColoring.getState().cell;
  expect([cells(), ramp(1).indexOf(first)]).toEqual([before + 1, ramp(1).indexOf(middle!) - 1]);
  chooseCell(middle!);
  nudgeColor('darker');
  expect([cells(), useColoring.getState().cell]).toEqual([before + 1, first]);
  undoEdit();
  expect(cells()).toBe(before);
});

it('copies what lies under picked faces to their twins, in the variant in hand alone', async () => {
  usePaint.setState({ form: 'dots' });
  const [a, b] = [under(4), under(5)];
  paintAt(a[0]!);
  paintAt(a[3]!);
  const shown = (list: readonly (readonly [number, number])[]) => list.map(([x, y]) => texels()[y * width() + x]).sort();
  usePhrase.setState({ mirror: 'across', mirrorAxis: 'x' });
  usePick.getState().set((list) => list.fill(0).forEach((_, f) => (list[f] = f === 4 ? 1 : 0)));
  chooseVariant(makeVariant({ name: 'Wet' }));
  await copyToOtherSide();
  expect(shown(b)).toEqual(shown(a));
  const twin = texels();
  pointAtTexel(a[0]!);
  expect([...usePaint.getState().lit!.texels].map((t) => twin[t])).toEqual([ramp(1)[0], ramp(1)[0]]);
  chooseVariant(null);
  expect(shown(b)).toEqual(b.map(() => ramp(0)[1]));
  undoEdit();
  chooseVariant(baseState().kit.variants[0]!.id);
  expect(shown(b)).toEqual(b.map(() => ramp(0)[1]));
  chooseVariant(null);
});

it('fills a color on all art of the sheet in one undo, and says how many texels lie elsewhere', async () => {
  showModel('floor');
  dispatch({ kind: 'seat', model: 'floor', spans: Uint32Array.of(0, 9, 0, ramp(0)[1]!) });
  await makeModelPaintable(4);
  const other = artInHand()!;
  const onFloor = () => [...baseState().pixels![other.art]!.cells];
  showModel('box');
  usePaint.setState({ form: 'onSheet', sets: 'color' });
  chooseCell(ramp(1)[0]!);
  const before = onFloor();
  const meant = before.filter((c) => c === ramp(0)[1]).length;
  pointAtTexel(under(0)[0]!);
  expect(usePaint.getState().lit!.elsewhere).toBe(meant);
  const count = edits();
  paintAt(under(0)[0]!);
  expect(edits() - count).toBe(1);
  expect(onFloor()).toEqual(before.map((c) => (c === ramp(0)[1] ? ramp(1)[0] : c)));
  expect(texels().includes(ramp(0)[1]!)).toBe(false);
  undoEdit();
  expect(onFloor()).toEqual(before);
  // A color that is spared is spared there, too.
  usePaint.setState({ over: [ramp(0)[1]!], isSparing: true });
  paintAt(under(0)[0]!);
  expect(onFloor()).toEqual(before);
});

it('stamps lie side by side along a drag, mirrored as images of each other; without a step nothing is set', async () => {
  usePhrase.setState({ mirror: 'across', mirrorAxis: 'x' });
  const plane = (await symmetryInView())!;
  usePaint.setState({ sets: 'motif', motif: 'rope', form: 'stamps' });
  const art = artInHand()!;
  const before = texels();
  const [at] = under(0) as [readonly [number, number]];
  const stroke = Stroke.begin([at[0] + 1, at[1] + 1])!;
  stroke.moveTo([at[0] + 3, at[1] + 1]);
  stroke.end(null);
  const after = texels();
  const changed = after.flatMap((c, t) => (c === before[t] ? [] : [t]));
  expect(changed.length).toBeGreaterThan(4);
  for (const t of changed) {
    const twin = mirroredTexel(shownArt(art), t, plane);
    if (twin) expect([after[t], t]).toEqual([after[twin.texel], t]);
  }
  undoEdit();
  expect(texels()).toEqual(before);
  const count = edits();
  newMotif();
  expect([usePaint.getState().sets, Stroke.begin(at), edits() - count]).toEqual(['motif', null, 1]);
  const own = baseState().kit.motifs![0]!;
  changeMotif({ ...own, rows: ['+'] });
  Stroke.begin(at)!.end(null);
  expect(texels()).not.toEqual(before);
  removeMotif(own.id);
  expect(baseState().kit).not.toHaveProperty('motifs');
});

it('noise is the same again, or another with each stroke; a checker grows along a line that is drawn first', () => {
  const all = { form: 'everywhere' as const };
  const [at, other] = [under(0)[0]!, under(0).at(-1)!];
  usePaint.setState({
    ...all,
    form: 'part',
    sets: 'noise',
    among: [
      { cell: ramp(0)[0]!, weight: 1 },
      { cell: ramp(1)[2]!, weight: 1 },
    ],
  });
  paintAt(at);
  const first = texels();
  paintAt(at);
  expect(texels()).toEqual(first);
  usePaint.setState({ isRenewing: true });
  paintAt(at);
  expect(texels()).not.toEqual(first);
  usePaint.setState({ sets: 'checker', isAlong: true, other: ramp(0)[2]!, isRenewing: false, grid: 2 });
  chooseCell(ramp(0)[0]!);
  const count = edits();
  const line = beginStroke(at)!;
  line.moveTo(other);
  line.end(other);
  expect([edits() - count, usePaint.getState().line === null]).toEqual([0, false]);
  beginStroke(at)!.end(at);
  const { pixels } = artInHand()!;
  const shown = ([x, y]: readonly [number, number]) => pixels.cells[y * pixels.width + x];
  expect([shown(at), shown(other)]).toEqual([ramp(0)[0], ramp(0)[2]]);
  expect(new Set(under(0).map(shown))).toEqual(new Set(ramp(0)));
});

it('a pattern is kept on what is picked, done anew after it was painted over or its ramp changed, tuned, and let go', () => {
  const pick = (faces: number[]) => usePick.getState().set((list) => list.fill(0).forEach((_, f) => (list[f] = faces.includes(f) ? 1 : 0)));
  const kept = () => keptPatterns(current()!.model);
  const off = () => differing(useEditor.getState().state, 'box', current()!.loaded!, facesOfSpans(kept()[0]!.spans), kept()[0]!.pattern);
  const on = (face: number) => under(face).map(([x, y]) => texels()[y * width() + x]);
  pick([0, 1]);
  keepPattern();
  expect(kept()).toEqual([]);
  usePaint.setState({ sets: 'noise', within: 1 });
  chooseCell(ramp(0)[1]!);
  const [before, count] = [texels(), edits()];
  keepPattern();
  const made = texels();
  expect([edits() - count, kept().map((p) => [p.name, p.spans]), off()]).toEqual([1, [['noise', [0, 2]]], 0]);
  expect([new Set(on(0)).size, new Set(on(2)).size]).toEqual([3, 1]);
  pick([]);
  usePaint.setState({ sets: 'nothing', form: 'face' });
  paintAt(under(0)[0]!);
  expect(off()).toBe(under(0).length);
  renewPattern(kept()[0]!);
  expect([texels(), off()]).toEqual([made, 0]);
  // In the phrase again, with its faces picked: kept once more it is the same one.
  tunePattern(kept()[0]!);
  expect([usePaint.getState().sets, usePick.getState().count, useColoring.getState().cell]).toEqual(['noise', 2, ramp(0)[1]]);
  usePaint.setState({ sets: 'motif', around: 'there' });
  keepPattern();
  expect(kept()[0]!.pattern.kind).toBe('noise');
  usePaint.setState({ around: 'color', motif: 'rope' });
  keepPattern();
  expect(kept().map((p) => [p.name, p.pattern.kind])).toEqual([['noise', 'motif']]);
  letPatternGo(kept()[0]!);
  expect([kept(), current()!.model.picks!.length]).toEqual([[], 1]);
  while (edits() > count) undoEdit();
  expect([texels(), current()!.model.picks]).toEqual([before, undefined]);
});

it('no brush paints over a color that is locked, in any coloring, nor lights it', () => {
  lockColor(ramp(0)[1]!, true);
  pointAtTexel(under(0)[0]!);
  expect(usePaint.getState().lit!.texels).toHaveLength(0);
  const before = texels();
  for (const form of ['dots', 'face', 'everywhere', 'onSheet'] as const) {
    usePaint.setState({ form });
    paintAt(under(0)[0]!);
  }
  expect(texels()).toEqual(before);
  lockColor(ramp(0)[1]!, false);
  expect(baseState().kit.sheets[0]!.cells.some((c) => 'locked' in c)).toBe(false);
  paintAt(under(0)[0]!);
  expect(texels()).not.toEqual(before);
});

it('an art of one texel, and faces that reach beyond their art, are painted as any other, within what is there', async () => {
  showModel('floor');
  await makeModelPaintable(0.01);
  const art = artInHand()!;
  expect([art.pixels.width, art.pixels.height]).toEqual([1, 1]);
  const every = ['dots', 'stamps', 'rectangle', 'touching', 'everywhere', 'onSheet', 'face', 'part', 'picked'] as const;
  for (const sets of ['color', 'darker', 'noise', 'checker', 'motif', 'nothing'] as const)
    for (const form of every) {
      usePaint.setState({ form, sets, size: 16, around: 'color' });
      pointAtTexel([0, 0]);
      expect(usePaint.getState().lit!.texels.length).toBeLessThanOrEqual(1);
      paintAt([0, 0]);
    }
  expect(texels()).toEqual([0]);
  // Its corners lie far beside the art: no texel but that one is under it.
  const { seats, loaded } = artInHand()!;
  const faces = facesOfSpans([0, loaded.mesh.faceStart.length - 1]);
  dispatch(placeCorners('floor', seats, loaded.mesh.faceStart, faces, (out, i, c) => {
    out[i] = c % 4 === 1 || c % 4 === 2 ? 900 : -900;
    out[i + 1] = c % 4 < 2 ? -900 : 900;
  })); // prettier-ignore
  usePaint.setState({ form: 'face', sets: 'color' });
  paintAt([0, 0]);
  expect(texels()).toEqual([ramp(1)[0]]);
});
