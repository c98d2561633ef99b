import { farthest, longestPlacementName, scaleBounds } from '../ground/limits';
import type { Kit, Placement } from './kit';

/** Why a placement cannot be called so; `null` where it can. */
export function problemOfPlacementName({ placements = [] }: Pick<Kit, 'placements'>, name: string, own?: string): string | null {
  if (!name.trim()) return 'Give it a name.';
  if (name.trim().length > longestPlacementName) return `A name has at most ${longestPlacementName} characters.`;
  const wanted = name.trim().toLowerCase();
  return placements.some((p) => p.id !== own && p.name.toLowerCase() === wanted) ? `“${name.trim()}” stands there already.` : null;
}

/** Why a placement cannot stand so, apart from its name; `null` where it can. */
export function problemOfPlacement(kit: Kit, { name, model, variant, at, turn, scale }: Placement): string | null {
  if (!kit.models.some((m) => m.id === model)) return `“${name}” is of a model that is not there`;
  const own = variant === undefined ? null : kit.variants.find((v) => v.id === variant);
  if (own === undefined) return `“${name}” starts in a variant that is not there`;
  if (own?.model !== undefined && own.model !== model) return `“${name}” starts in a variant of another model`;
  const isNear = at.length === 3 && at.every((v) => Number.isFinite(v) && Math.abs(v) <= farthest);
  if (!isNear || !(turn >= 0 && turn < 360) || !(scale >= scaleBounds[0] && scale <= scaleBounds[1])) return `“${name}” stands nowhere`;
  return null;
}
