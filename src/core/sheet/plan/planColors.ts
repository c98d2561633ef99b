import { mostRoles } from '../../ground/limits';
import { hexFromLch, lchFromHex, parseHex, type Hex } from '../../ground/color/hex';
import { fitToGamut, labDistance, labFromLch, type Lch } from '../../ground/color/oklab';
import { makeRamp } from '../ramp/makeRamp';
import { colorOfName } from './nameColor';

export interface PlannedRole {
  name: string;
  /** Colors from dark to light; one for a single color. */
  steps: number;
  /** The base color; left out where it is to be proposed. */
  color?: Hex;
}

export interface PlannedColor {
  name: string;
  /** Whether the color comes from the name, was given, or was spread away from the others. */
  from: 'name' | 'given' | 'spread';
  /** Dark to light. */
  colors: Hex[];
  baseIndex: number;
}

/** A list as it was typed: its roles, and how many spare cells it asks for. */
export interface RoleList {
  roles: PlannedRole[];
  spares?: number;
}

const steps = '(?:steps?|tones?|shades?)';

/**
 * Roles from a typed or pasted list: one a line, or divided by commas or semicolons, or the rows of a table; bullets,
 * numbering and doubles are dropped. A number at the end ("rope 3", "rope, 3 steps" in a table) sets the steps of that
 * role, up to 9; a hex number its color; "3 spare" the spare cells.
 */
export function readRoles(text: string, usualSteps: number): RoleList {
  const seen = new Set<string>();
  const list: RoleList = { roles: [] };
  for (const line of text.split(/\n/))
    for (const part of /[\t|]/.test(line) ? [line.replace(/[\t|,;]+/g, ' ')] : line.split(/[,;]+/)) {
      const clean = part.replace(/^[\s\-–*•·]*(\d+[.)]\s*)?/, '').trim();
      const spare = /^(?:(\d{1,2})\s*spares?(?: cells?)?|spares?(?: cells?)?\s*[x×:]?\s*(\d{1,2}))$/i.exec(clean);
      if (spare) {
        list.spares = Number(spare[1] ?? spare[2]);
        continue;
      }
      const hex = /(?:^|\s)(#[0-9a-f]{6}|#[0-9a-f]{3})(?=\s|$)/i.exec(clean)?.[1];
      const rest = (hex ? clean.replace(hex, ' ') : clean).replace(/\s+/g, ' ').trim();
      const [, name = rest, own] = new RegExp(`^(.*?\\D)(?:\\s+x\\s*|\\s*[×:]\\s*|\\s+)([1-9])(?:\\s*${steps})?$`, 'u').exec(rest) ?? [];
      const role = name.trim().slice(0, 80) || hex?.toLowerCase() || '';
      if (!role || seen.has(role.toLowerCase())) continue;
      seen.add(role.toLowerCase());
      const color = hex && parseHex(hex);
      list.roles.push({ name: role, steps: own ? Number(own) : usualSteps, ...(color && { color }) });
      if (list.roles.length === mostRoles) return list;
    }
  return list;
}

/** Base colors closer than this (OKLab) would be taken for one another. */
const leastDistance = 0.06;

/**
 * A balanced proposal: names that mean a thing take its color and are pushed apart a little where they would
 * be twins; the others take, one after another, the color that lies farthest from all that are there
 * (`present`: those of the sheet). Steps are made by `makeRamp`.
 */
export function planColors(roles: readonly PlannedRole[], present: readonly Hex[] = []): PlannedColor[] {
  const bases: (Lch | null)[] = roles.map((r) => (r.color ? lchFromHex(r.color) : colorOfName(r.name)));
  const taken = present.map(lchFromHex);
  roles.forEach((role, i) => {
    const base = bases[i];
    if (!base) return;
    const settled = role.color ? base : keepApart(fitToGamut(base), taken);
    bases[i] = settled;
    taken.push(settled);
  });
  roles.forEach((_, i) => {
    if (bases[i]) return;
    const spread = farthest(taken);
    bases[i] = spread;
    taken.push(spread);
  });
  return roles.map((role, i) => {
    const base = role.color ?? hexFromLch(bases[i]!);
    const from = role.color ? 'given' : colorOfName(role.name) ? 'name' : 'spread';
    if (role.steps <= 1) return { name: role.name, from, colors: [base], baseIndex: 0 };
    const { l } = bases[i]!;
    const ramp = makeRamp(base, {
      steps: role.steps,
      dark: Math.max(0.16, l - 0.13 * (role.steps - 1)),
      light: Math.min(0.97, l + 0.09 * (role.steps - 1)),
    });
    return { name: role.name, from, ...ramp };
  });
}

/**
 * The nearest variation of a color, in lightness, hue and chroma, that is no twin of another; the farthest of
 * them where all are.
 */
function keepApart(color: Lch, others: readonly Lch[]): Lch {
  const isApart = (at: Lch) => distanceToNearest(at, others) >= leastDistance;
  if (isApart(color)) return color;
  let best = color;
  let bestDistance = -1;
  for (let ring = 1; ring <= 4; ring++)
    for (const [dl, dh, dc] of directions) {
      const at = fitToGamut({
        l: clamp(color.l + dl * ring * 0.035, 0.2, 0.96),
        h: (color.h + dh * ring * 6 + 360) % 360,
        c: Math.max(0, color.c * (1 + dc * ring * 0.15)),
      });
      if (isApart(at)) return at;
      const distance = distanceToNearest(at, others);
      if (distance > bestDistance) [best, bestDistance] = [at, distance];
    }
  return best;
}

const directions = [
  [1, 0, 0],
  [-1, 0, 0],
  [1, 1, 0],
  [-1, -1, 0],
  [1, -1, 1],
  [-1, 1, 1],
  [0, 1, 1],
  [0, -1, 1],
] as const;

const clamp = (v: number, least: number, most: number) => Math.max(least, Math.min(most, v));

function distanceToNearest(color: Lch, others: readonly Lch[]): number {
  const lab = labFromLch(color);
  let least = Infinity;
  for (const other of others) least = Math.min(least, labDistance(lab, labFromLch(other)));
  return least;
}

/** Of calm candidates all around the hues, the one farthest from what is there. */
function farthest(others: readonly Lch[]): Lch {
  let best: Lch = { l: 0.58, c: 0.1, h: 235 };
  if (!others.length) return best;
  let most = -1;
  for (let h = 10; h < 360; h += 15)
    for (const l of [0.58, 0.7, 0.46, 0.82])
      for (const c of [0.1, 0.06]) {
        const at = fitToGamut({ l, c, h });
        const distance = distanceToNearest(at, others);
        if (distance > most + 1e-9) [best, most] = [at, distance];
      }
  return best;
}
