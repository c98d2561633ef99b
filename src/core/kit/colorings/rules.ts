import { hexFromLch, hexFromRgb, lchFromHex, rgbFromHex, type Hex } from '../../ground/color/hex';
import { fitToGamut, labFromRgb, rgbFromLab, type Lab } from '../../ground/color/oklab';
import type { Cell, ColoringRule, Fill, Kit, Ramp } from '../kit';

/** Rules as they begin: nothing changes yet, but for what cannot be without a change. */
export const newRule = {
  shift: (): ColoringRule => ({ kind: 'shift', lightness: 0, strength: 1, hue: 0 }),
  toward: (color: Hex): ColoringRule => ({ kind: 'toward', color, share: 0.3 }),
  exchange: (): ColoringRule => ({ kind: 'exchange', cells: {} }),
  drawn: (reference: string, colors: Record<number, Hex>): ColoringRule => ({ kind: 'drawn', reference, colors }),
};

/**
 * The fills that rules make of a kit's own, one after the other; cells that stay as they are are left out. Art and
 * spare cells stay. Changes are made in OKLab and OKLCH (lightness and strength of color as perceived); what a
 * screen cannot show loses chroma.
 */
export function fillsByRules(kit: Kit, rules: readonly ColoringRule[] = []): Record<number, Fill> {
  const out: Record<number, Fill> = {};
  if (!rules.length) return out;
  const now = new Map(kit.sheets.flatMap((s) => s.cells.map((c) => [c.id, c.fill] as const)));
  for (const rule of rules) for (const [id, fill] of changed(kit, now, rule)) now.set(id, fill);
  for (const { cells } of kit.sheets)
    for (const { id, fill } of cells)
      if (now.get(id) !== fill && JSON.stringify(now.get(id)) !== JSON.stringify(fill)) out[id] = now.get(id)!;
  return out;
}

/** What one rule makes of fills, all of them read before any is changed. */
function changed(kit: Kit, now: ReadonlyMap<number, Fill>, rule: ColoringRule): [number, Fill][] {
  const except = new Set(rule.except);
  const meant = meantCells(kit, rule).filter((c) => !except.has(c.id));
  const colored = (turn: (color: Hex, cell: Cell) => Hex): [number, Fill][] =>
    meant.flatMap((cell) => {
      const fill = withColors(now.get(cell.id)!, (color) => turn(color, cell));
      return fill ? [[cell.id, fill] as [number, Fill]] : [];
    });
  switch (rule.kind) {
    case 'shift':
      return colored((color) => shifted(color, rule));
    case 'toward': {
      const to = labFromRgb(rgbFromHex(rule.color));
      return colored((color) => mixed(color, to, rule.share));
    }
    case 'drawn':
      return colored((color, { id }) => rule.colors[id] ?? color);
    case 'exchange':
      return colored((color, { id }) => {
        const from = now.get(rule.cells[id] ?? 0);
        return from?.kind === 'solid' ? from.color : color;
      });
  }
}

/** The cells that a rule is about: all, or those of chosen ramps. */
export function meantCells({ sheets }: Kit, rule: ColoringRule): Cell[] {
  const { only } = rule;
  if (!only) return sheets.flatMap((s) => s.cells);
  return sheets.flatMap((s) => {
    const ids = new Set(s.ramps.flatMap((r) => (only.includes(r.id) ? r.cells : [])));
    return s.cells.filter((c) => ids.has(c.id));
  });
}

function withColors(fill: Fill, turn: (color: Hex) => Hex): Fill | null {
  switch (fill.kind) {
    case 'solid':
      return { ...fill, color: turn(fill.color) };
    case 'gradient':
      return { ...fill, stops: fill.stops.map((s) => ({ ...s, color: turn(s.color) })) };
    case 'corners': {
      const [a, b, c, d] = fill.colors;
      return { ...fill, colors: [turn(a), turn(b), turn(c), turn(d)] };
    }
    case 'art':
    case 'spare':
      return null;
  }
}

function shifted(color: Hex, { lightness, strength, hue }: Extract<ColoringRule, { kind: 'shift' }>): Hex {
  if (lightness === 0 && strength === 1 && hue === 0) return color;
  const { l, c, h } = lchFromHex(color);
  return hexFromLch(fitToGamut({ l: Math.max(0, Math.min(1, l + lightness)), c: c * strength, h: (((h + hue) % 360) + 360) % 360 }));
}

function mixed(color: Hex, to: Lab, share: number): Hex {
  if (share === 0) return color;
  const from = labFromRgb(rgbFromHex(color));
  return hexFromRgb(rgbFromLab(from.map((v, k) => v + (to[k]! - v) * share) as unknown as Lab));
}

/**
 * The pairs of an exchange, by cell, after one ramp takes the colors of another (`null`: its own): step for step where
 * they are as long, else by where in its ramp a step stands. Steps that come later take part in nothing by themselves.
 */
export function exchangeRamp(pairs: Readonly<Record<number, number>>, to: Ramp, from: Ramp | null): Record<number, number> {
  const next = Object.fromEntries(Object.entries(pairs).filter(([id]) => !to.cells.includes(Number(id))));
  if (from?.cells.length) to.cells.forEach((id, i) => (next[id] = from.cells[alike(i, to.cells.length, from.cells.length)]!));
  return next;
}

/** The ramp whose colors another one takes in an exchange. */
export const exchangedFrom = ({ sheets }: Kit, pairs: Readonly<Record<number, number>>, { cells }: Ramp): Ramp | null => {
  const from = pairs[cells.find((id) => pairs[id] !== undefined) ?? 0];
  return sheets.flatMap((s) => s.ramps).find((r) => from !== undefined && r.cells.includes(from)) ?? null;
};

/** The place in one row that stands as a place of another stands in its own. */
const alike = (i: number, length: number, other: number): number =>
  length > 1 ? Math.round((i * (other - 1)) / (length - 1)) : other >> 1;

/**
 * Which plain cell takes which of some colors: dark to dark, so that what is lighter stays lighter. Cells of like
 * lightness may take one color where there are fewer colors than cells.
 */
export function colorsInOrder(kit: Kit, colors: readonly Hex[]): Record<number, Hex> {
  const byLightness = (a: { l: number }, b: { l: number }) => a.l - b.l;
  const cells = kit.sheets
    .flatMap((s) => s.cells.flatMap((c) => (c.fill.kind === 'solid' ? [{ id: c.id, l: lchFromHex(c.fill.color).l }] : [])))
    .sort(byLightness);
  const drawn = colors.map((color) => ({ color, l: lchFromHex(color).l })).sort(byLightness);
  if (!drawn.length) return {};
  return Object.fromEntries(cells.map(({ id }, i) => [id, drawn[alike(i, cells.length, drawn.length)]!.color]));
}
