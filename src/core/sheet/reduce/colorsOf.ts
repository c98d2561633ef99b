import { mostIn } from '../../ground/limits';
import { lchFromHex, type Hex } from '../../ground/color/hex';
import { applyEdit } from '../../kit/edit/editKinds';
import type { Edit } from '../../kit/edit/edit';
import { freeName } from '../../kit/freeName';
import { findSheet, newId, type KitState, type Ramp } from '../../kit/kit';
import { snapToAllowed } from '../allowedColors';
import { newColor } from '../newColor';
import { wordOfColor } from '../plan/wordOfColor';

/** Chroma up to which a color is a grey. */
const greyTo = 0.03;
/** Degrees between the hues of two colors, side by side, from which they are of two families. */
const apart = 24;

/** Colors in families of one hue, the greys first, each from dark to light; as their indices. */
export function familiesOf(colors: readonly Hex[]): number[][] {
  const lch = colors.map(lchFromHex);
  const byLight = (a: number, b: number) => lch[a]!.l - lch[b]!.l || a - b;
  const greys = [...lch.keys()].filter((i) => lch[i]!.c < greyTo);
  const hues = [...lch.keys()].filter((i) => lch[i]!.c >= greyTo).sort((a, b) => lch[a]!.h - lch[b]!.h || a - b);
  const gap = (i: number) => (lch[hues[i]!]!.h - lch[hues[(i + hues.length - 1) % hues.length]!]!.h + 360) % 360;
  const starts = hues.flatMap((_, i) => (hues.length > 1 && gap(i) > apart ? [i] : []));
  const first = starts[0] ?? 0;
  // Around the circle, from where a family begins.
  const around = [...hues.slice(first), ...hues.slice(0, first)];
  const families: number[][] = greys.length ? [greys] : [];
  around.forEach((color, k) => {
    if (k === 0 || starts.includes((k + first) % hues.length)) families.push([]);
    families.at(-1)!.push(color);
  });
  return families.map((f) => f.sort(byLight));
}

/**
 * Colors on a sheet: those that it has as they are, the others as new ones, in ramps by their hues, called after what they
 * are of. The edits, one after the other, the state after them, and the cell of each color. `state` must have no arrays that anybody else holds.
 * Throws where the sheet can take no more.
 */
export function colorsOnSheet(
  state: KitState,
  sheetId: string,
  colors: readonly Hex[],
  name: string,
): { edits: Edit[]; next: KitState; cells: number[] } {
  const edits: Edit[] = [];
  let next = state;
  const take = (edit: Edit) => {
    edits.push(edit);
    next = applyEdit(next, edit);
  };
  const sheet = () => findSheet(next.kit, sheetId);
  const known = new Map(
    sheet().cells.flatMap(({ id, fill }) => (fill.kind === 'solid' && fill.alpha === undefined ? [[fill.color, id] as const] : [])),
  );
  const wanted = colors.map((c) => snapToAllowed(state.kit, c));
  const added = [...new Set(wanted)].filter((c) => !known.has(c));
  for (const family of familiesOf(added)) {
    // By the purest of them: pale and dark ones read as greys.
    const chroma = (i: number) => lchFromHex(added[i]!).c;
    const word = wordOfColor(added[family.reduce((best, i) => (chroma(i) > chroma(best) ? i : best))]!);
    const cells = family.map((i, n) => {
      const role = `${name}, ${word}${family.length > 1 ? ` ${n + 1}` : ''}`;
      const made = newColor(next, { sheet: sheetId, color: added[i]!, role });
      take(made.edit);
      known.set(added[i]!, made.cell);
      return made.cell;
    });
    for (let from = 0; from < cells.length; from += mostIn.steps) {
      const steps = cells.slice(from, from + mostIn.steps);
      if (steps.length < 2 || sheet().ramps.length >= mostIn.ramps) continue;
      const names = sheet().ramps.map((r) => r.name);
      const after: Ramp = { id: newId('r'), name: freeName(`${name}, ${word}`, names), cells: steps };
      take({ kind: 'put', list: 'ramps', of: sheetId, index: sheet().ramps.length, before: null, after });
    }
  }
  return { edits, next, cells: wanted.map((c) => known.get(c)!) };
}
