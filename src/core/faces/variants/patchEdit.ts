import { inherits } from '../../ground/limits';
import type { PatchEdit } from '../../kit/edit/edit';
import { type Kit, type KitState, type SeatPatch, type Seats } from '../../kit/kit';
import { emptyPatch, patchOf } from '../../kit/patches';
import { texturedCells } from '../seat/colorsOfFaces';

/**
 * The edit after which a model's faces sit in a variant as `wanted` says, with no more differences from the
 * default than that takes: on cells of one color it does not matter where. `faceStart`: first corner of each
 * face; `kit`: with the cells of which the variant speaks, as it shows them; `faces`: those that may differ from what
 * the variant says now, ascending, all where it is not told. `null` where it is so.
 */
export function patchEdit(
  base: KitState,
  variant: string,
  model: string,
  wanted: Seats,
  faceStart: Uint32Array,
  kit: Kit,
  faces?: Uint32Array,
): PatchEdit | null {
  const own = base.seats[model]!;
  const textured = texturedCells(kit);
  const say = (f: number, next: Said) => {
    const cell = wanted.cell[f]!;
    const rule = wanted.rule?.[f] ?? 0;
    const isThere = cell === own.cell[f];
    if (isThere && (!textured[cell] || (rule === (own.rule?.[f] ?? 0) && liesSame(own, wanted, faceStart, f)))) return;
    if (!isThere) next.cell = cell;
    if (!textured[cell]) return;
    next.rule = rule;
    next.at = (c) => wanted.at?.[c] ?? 0.5;
  };
  return changeOfPatch(patchOf(base, variant, model), variant, model, faceStart, say, faces);
}

function liesSame({ at }: Seats, { at: other }: Seats, faceStart: Uint32Array, f: number): boolean {
  if (at === other) return true;
  for (let i = faceStart[f]! * 2; i < faceStart[f + 1]! * 2; i++) if ((at?.[i] ?? 0.5) !== (other?.[i] ?? 0.5)) return false;
  return true;
}

/** What a variant says of one face; at first that it inherits all. */
export interface Said {
  cell: number;
  rule: number;
  /** Coordinates by their index; without it those of the default. */
  at: ((index: number) => number) | null;
}

/** The edit by which a patch says of each face what `say` writes; faces that are not in `faces` stay. `null` where nothing changes. */
export function changeOfPatch(
  patch: SeatPatch | undefined,
  variant: string,
  model: string,
  faceStart: Uint32Array,
  say: (face: number, next: Said) => void,
  faces?: Uint32Array,
): PatchEdit | null {
  const count = faceStart.length - 1;
  const own = patch ?? emptyPatch(count);
  const [cells, rules] = [new Spans(), new Spans()];
  const [corners, before, after]: [number[], number[], number[]] = [[], [], []];
  const next: Said = { cell: inherits, rule: inherits, at: null };
  for (let i = 0; i < (faces?.length ?? count); i++) {
    const f = faces ? faces[i]! : i;
    next.cell = next.rule = inherits;
    next.at = null;
    say(f, next);
    const at = next.at as Said['at'];
    cells.add(f, own.cell[f]!, next.cell);
    rules.add(f, own.rule?.[f] ?? inherits, next.rule);
    if (!at && !own.at) continue;
    const [from, to] = [faceStart[f]!, faceStart[f + 1]!];
    let isSame = true;
    for (let k = from * 2; k < to * 2 && isSame; k++) isSame = Object.is(own.at?.[k] ?? NaN, Math.fround(at?.(k) ?? NaN));
    if (isSame) continue;
    if (corners.length && corners.at(-2)! + corners.at(-1)! === from) corners[corners.length - 1]! += to - from;
    else corners.push(from, to - from);
    for (let k = from * 2; k < to * 2; k++) {
      before.push(own.at?.[k] ?? NaN);
      after.push(at?.(k) ?? NaN);
    }
  }
  if (!cells.list.length && !rules.list.length && !corners.length) return null;
  return {
    kind: 'patch',
    variant,
    model,
    cornerCount: faceStart[count]!,
    cells: Uint32Array.from(cells.list),
    rules: Uint32Array.from(rules.list),
    corners: Uint32Array.from(corners),
    before: Float32Array.from(before),
    after: Float32Array.from(after),
  };
}

/** Spans of first face, count, before and after, of faces that come in ascending order. */
class Spans {
  readonly list: number[] = [];

  add(face: number, before: number, after: number): void {
    if (before === after) return;
    const { list } = this;
    const n = list.length;
    if (n && list[n - 4]! + list[n - 3]! === face && list[n - 2] === before && list[n - 1] === after) list[n - 3]!++;
    else list.push(face, 1, before, after);
  }
}
