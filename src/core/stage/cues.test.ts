import { modelOf } from '@tests/parts';
import { byId } from '@/core/ground/byId';
import { expect, it } from 'vitest';
import { applyEdit, inverseOf } from '../kit/edit/editKinds';
import { gone, problemOfCue, problemOfCueName } from '../kit/cues';
import { emptySeats, type Cue, type KitState, type Model, type Placement } from '../kit/kit';
import { newKit } from '../sheet/starter';
import { removeModel } from '../faces/variants/removeModel';
import { removeVariant, renameVariant } from '../faces/variants/variantEdits';
import { addCue, changeCue, cuesAbout, moveCue, newCue, openCues, removeCue } from '../kit/edit/cueEdits';
import { removePlacements } from '../kit/edit/placements';
import { startPlay } from './play';

const placed = (id: string, model: string, x: number, variant?: string): Placement => ({
  ...{ id, name: `${id} there`, model, at: [x, 3, 0], turn: 0, scale: 1 },
  ...(variant && { variant }),
});

/** A board, a bell, and two pots, one of them salt-worn. */
function islet(cues: Cue[] = []): KitState {
  const kit = newKit('Skerry');
  const model = (id: string): Model => modelOf(id, 6, kit.sheets[0]!.id);
  const variants = [
    { id: 'fresh', name: 'Fresh paint', fills: {} },
    { id: 'salt', name: 'Salt-worn', fills: {} },
    { id: 'rung', name: 'Rung', model: 'bell', fills: {} },
  ];
  const placements = [placed('board', 'board', 0), placed('bell', 'bell', 10), placed('p1', 'pot', 20), placed('p2', 'pot', 30, 'salt')];
  return {
    kit: { ...kit, models: ['board', 'bell', 'pot'].map(model), variants, placements, ...(cues.length && { cues }) },
    seats: byId({ board: emptySeats(6), bell: emptySeats(6), pot: emptySeats(6) }),
  };
}
const cue = (id: string, change: Partial<Cue> = {}): Cue => ({
  ...{ id, name: id, when: { kind: 'click', placement: 'board' }, who: { placement: 'bell' }, does: { kind: 'show', coloring: 'salt' } },
  ...change,
});
const far = [1e4, 1e4] as const;
const play = (...cues: Cue[]) => startPlay(islet(cues).kit);

it('shows a variant on what it can be shown: one placement, all of a model, all that stands there', () => {
  const one = play(cue('a'));
  expect(Object.fromEntries(one.shows)).toEqual({ board: null, bell: null, p1: null, p2: 'salt' });
  one.click('bell');
  expect([one.version, one.log]).toEqual([0, []]);
  one.click('board');
  expect([one.shows.get('bell'), one.shows.get('p1'), one.version]).toEqual(['salt', null, 1]);
  expect(one.log).toEqual([{ at: 0, cue: 'a', says: 'bell there shows Salt-worn' }]);
  one.click('board');
  expect([one.version, one.log[1]!.says]).toEqual([1, 'nothing had to change']);
  const pots = play(cue('a', { who: { model: 'pot' }, does: { kind: 'show', coloring: null } }));
  pots.click('board');
  expect([...pots.shows.values()]).toEqual([null, null, null, null]);
  const all = play(cue('a', { who: {}, does: { kind: 'show', coloring: 'rung' } }));
  all.click('board');
  // A variant of the bell alone is not for the others.
  expect([...all.shows.values()]).toEqual([null, 'rung', null, 'salt']);
});

it('shows the next in turn in the order of the kit, among those that are ticked, and begins again', () => {
  const seen = (among?: (string | null)[]) => {
    const p = play(cue('a', { does: { kind: 'next', ...(among && { among }) } }));
    return Array.from({ length: 4 }, () => (p.click('board'), p.shows.get('bell')));
  };
  expect(seen()).toEqual(['fresh', 'salt', 'rung', null]);
  expect(seen(['rung', 'fresh'])).toEqual(['fresh', 'rung', 'fresh', 'rung']);
});

it('shows one at random, another than now, the same each time for a seed', () => {
  const made = cue('a', { who: {}, does: { kind: 'random', among: [null, 'fresh', 'salt'] } });
  const seen = (seed: number) => {
    const p = startPlay(islet([made]).kit, seed);
    return Array.from({ length: 12 }, () => {
      const before = [...p.shows.values()];
      p.click('board');
      const after = [...p.shows.values()];
      expect(after.every((c, i) => c !== before[i])).toBe(true);
      return after.join();
    }).join(' ');
  };
  expect(seen(4)).toBe(seen(4));
  expect(seen(4)).not.toBe(seen(5));
});

it('asks which, once at a time, and has run when it was answered', () => {
  const p = play(
    cue('ask', { who: {}, does: { kind: 'ask', question: 'How shall it look?', among: ['salt', null] } }),
    cue('then', { when: { kind: 'cue', cue: 'ask' }, does: { kind: 'next', among: ['fresh'] } }),
  );
  p.click('board');
  p.click('board');
  expect(p.question).toEqual({ cue: 'ask', text: 'How shall it look?', choices: [null, 'salt'] });
  p.answer(undefined);
  expect([p.question, p.version, p.log.at(-1)!.says]).toEqual([null, 0, 'was not answered']);
  p.click('board');
  p.answer('salt');
  expect([...p.shows.values()]).toEqual(['salt', 'fresh', 'salt', 'salt']);
  expect(p.log.slice(2).map((l) => l.says)).toEqual([
    'asks “How shall it look?”',
    '“Salt-worn” was chosen',
    '3 of what stands there show Salt-worn',
    'bell there shows Fresh paint',
  ]);
  p.click('board');
  p.answer(null);
  expect(p.shows.get('p2')).toBe(null);
});

it('runs when the visitor comes near over the ground, again only after the visitor was away', () => {
  const p = play(cue('a', { when: { kind: 'near', placement: 'p1', metres: 4 }, does: { kind: 'next', among: ['fresh', 'salt'] } }));
  const at = (x: number, z = 0) => (p.pass(0.1, [x, z]), p.shows.get('bell'));
  expect([at(0), at(15.9), at(16), at(20), at(24.1), at(20, 3.9), at(20, -4.1), at(23.9)]).toEqual([
    null,
    null,
    'fresh',
    'fresh',
    'fresh',
    'salt',
    'salt',
    'fresh',
  ]);
});

it('waits for its time, and one cue leads to another in the order of time', () => {
  const p = play(
    cue('late', { when: { kind: 'start' }, after: 5, does: { kind: 'show', coloring: 'fresh' } }),
    cue('soon', { when: { kind: 'start' }, after: 2 }),
    cue('after', { when: { kind: 'cue', cue: 'soon' }, after: 1, who: { placement: 'p1' } }),
    cue('first', { when: { kind: 'start' }, who: { placement: 'board' } }),
  );
  expect([p.shows.get('board'), p.untilNext]).toEqual(['salt', 2]);
  p.pass(1.9, far);
  expect(p.shows.get('bell')).toBe(null);
  p.pass(0.1, far);
  expect([p.shows.get('bell'), p.shows.get('p1'), p.untilNext]).toEqual(['salt', null, 1]);
  p.pass(60, far);
  expect([p.shows.get('bell'), p.shows.get('p1'), p.untilNext, p.time]).toEqual(['fresh', 'salt', null, 62]);
  expect(p.log.map((l) => [l.cue, l.at])).toEqual([
    ['first', 0],
    ['soon', 2],
    ['after', 3],
    ['late', 5],
  ]);
});

it('runs once where it shall, and only while a placement shows what it must', () => {
  const p = play(
    cue('once', { once: true, does: { kind: 'next', among: ['fresh', 'salt'] } }),
    cue('if', { who: { placement: 'p1' }, onlyIf: { placement: 'p2', coloring: null }, does: { kind: 'show', coloring: 'fresh' } }),
    cue('bare', { when: { kind: 'click', placement: 'bell' }, who: { placement: 'p2' }, does: { kind: 'show', coloring: null } }),
  );
  p.click('board');
  p.click('board');
  expect([p.shows.get('bell'), p.shows.get('p1')]).toEqual(['fresh', null]);
  p.click('bell');
  p.click('board');
  expect([p.shows.get('bell'), p.shows.get('p1')]).toEqual(['fresh', 'fresh']);
});

it('tells cues that wait for each other, and runs the others', () => {
  const after = (id: string, of: string) => cue(id, { when: { kind: 'cue', cue: of } });
  const { kit } = islet([
    after('x', 'z'),
    after('y', 'x'),
    after('z', 'y'),
    after('w', 'z'),
    after('self', 'self'),
    cue('a'),
    after('b', 'a'),
  ]);
  expect(openCues(kit).map((c) => c.cue.id)).toEqual(['x', 'y', 'z', 'self']);
  const p = startPlay(kit);
  p.click('board');
  expect(p.log.map((l) => l.cue)).toEqual(['a', 'b']);
});

it('follows names, and says what to do where what it speaks of is gone', () => {
  const cues = [
    cue('a', { does: { kind: 'ask', question: 'Which?', among: ['salt', 'fresh'] } }),
    cue('b', {
      when: { kind: 'near', placement: 'p2', metres: 3 },
      who: { model: 'pot' },
      onlyIf: { placement: 'bell', coloring: 'salt' },
    }),
    cue('c', { when: { kind: 'cue', cue: 'a' }, does: { kind: 'show', coloring: 'rung' } }),
  ];
  const state = islet(cues);
  const { kit } = state;
  const problems = (edit: Parameters<typeof applyEdit>[1] | null) => {
    const copy: KitState = { kit: structuredClone(kit), seats: byId({ board: emptySeats(6), bell: emptySeats(6), pot: emptySeats(6) }) };
    const next = applyEdit(copy, edit!);
    const found = openCues(next.kit).map((c) => `${c.cue.id}: ${c.problem}`);
    expect(applyEdit(next, inverseOf(edit!)).kit).toEqual(kit);
    return found;
  };
  expect(openCues(kit)).toEqual([]);
  expect(problems(renameVariant(state, kit.variants[1]!, 'Worn'))).toEqual([]);
  expect(problems(removeVariant(state, kit.variants[1]!))).toEqual(['b: The variant that it showed is gone: choose another.']);
  expect(problems(removePlacements(kit, ['board']))).toEqual(['a: What was clicked is gone: choose another, or delete this cue.']);
  expect(problems(removePlacements(kit, ['bell', 'p2']))).toEqual([
    'a: What changed is gone: choose another, or delete this cue.',
    'b: What was approached is gone: choose another, or delete this cue.',
    'c: What changed is gone: choose another, or delete this cue.',
  ]);
  expect(problems(removeModel(state, 'pot'))).toEqual(['b: What was approached is gone: choose another, or delete this cue.']);
  expect(problems(removeModel(state, 'bell'))).toEqual([
    'a: What changed is gone: choose another, or delete this cue.',
    'b: What it asked about first is gone: choose another, or run it in any case.',
    'c: What changed is gone: choose another, or delete this cue.',
  ]);
  expect(problems(removeCue(kit, 'a'))).toEqual(['c: The cue that it followed is gone: choose another, or delete this one.']);
  expect(cuesAbout(kit, { variants: ['salt'] }).map((c) => c.id)).toEqual(['a', 'b']);
  expect(cuesAbout(kit, { placements: ['p2'], cues: ['a'] }).map((c) => c.id)).toEqual(['b', 'c']);
  // What is open does not run, and the rest does.
  const p = startPlay({ ...kit, cues: [{ ...cues[0]!, when: { kind: 'click', placement: gone } }, cue('d')] });
  p.click('board');
  expect(p.log.map((l) => l.cue)).toEqual(['d']);
  expect(problemOfCue(kit, cue('e', { does: { kind: 'random', among: [] } }))).toBe('No coloring is ticked: tick one at least.');
  expect(problemOfCue(kit, cue('e', { does: { kind: 'ask', question: ' ' } }))).toBe('It asks nothing: write a question.');
  expect(problemOfCue(kit, cue('e', { who: { model: 'pot' }, does: { kind: 'show', coloring: 'rung' } }))).toContain(
    'can show this variant',
  );
});

it('is refused where it speaks of what never was, and its name is its own', () => {
  const state = islet([cue('a')]);
  const put = (change: Partial<Cue>) => () => applyEdit(state, addCue(state.kit, { ...cue('z'), ...change }));
  expect(put({})().kit.cues!.map((c) => c.name)).toEqual(['a', 'z']);
  expect(put({ when: { kind: 'click', placement: 'nobody' } })).toThrow('speaks of a placement that is not there');
  expect(put({ who: { model: 'nobody' } })).toThrow('speaks of a model that is not there');
  expect(put({ when: { kind: 'cue', cue: 'nobody' } })).toThrow('speaks of a cue that is not there');
  expect(put({ does: { kind: 'show', coloring: 'nobody' } })).toThrow('speaks of a variant that is not there');
  expect(put({ onlyIf: { placement: 'bell', coloring: 'nobody' } })).toThrow('speaks of a variant that is not there');
  expect(put({ when: { kind: 'near', placement: 'bell', metres: 0 } })).toThrow('a distance that cannot be');
  expect(put({ after: 3601 })).toThrow('a time that cannot be');
  expect(put({ name: ' A ' })).toThrow('Another cue is called “A”');
  expect(problemOfCueName(state.kit, '')).toBe('Give it a name.');
  const fresh = newCue(state.kit, 'p2');
  expect(fresh).toMatchObject({ name: 'Cue 2', when: { kind: 'click', placement: 'p2' }, who: { placement: 'p2' } });
  const two = applyEdit(state, addCue(state.kit, fresh));
  const moved = applyEdit(two, moveCue(two.kit, fresh.id, 0)!);
  expect(moved.kit.cues!.map((c) => c.name)).toEqual(['Cue 2', 'a']);
  expect([moveCue(two.kit, 'a', 0), changeCue(two.kit, fresh)]).toEqual([null, null]);
  expect(changeCue(two.kit, { ...fresh, once: true })).not.toBeNull();
  const bare = applyEdit(state, removeCue(state.kit, 'a')!);
  expect('cues' in bare.kit).toBe(false);
});
