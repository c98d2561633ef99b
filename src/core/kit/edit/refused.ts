import { equalArrays } from '../../ground/equalArrays';
import type { Kit, Model, Seats } from '../kit';

/** A change that does not fit, and was not made. */
export class EditRefused extends Error {
  constructor(why: string) {
    super(`This cannot be done: ${why}.`);
    this.name = 'EditRefused';
  }
}

/** Plain values by what they hold. */
export const isSame = (a: unknown, b: unknown): boolean => a === b || JSON.stringify(a) === JSON.stringify(b);

/** Throws `EditRefused` where seats are not of as many faces. */
export function checkSizes(faces: number, { cell, region, rule }: Seats, of: string): void {
  if (cell.length !== faces || region.length !== faces || (rule && rule.length !== faces))
    throw new EditRefused(`the colors do not fit the ${faces} faces of “${of}”`);
}

export function areSame(a: Seats, b: Seats): boolean {
  const equal = (p: ArrayLike<number> | undefined, q: ArrayLike<number> | undefined) => (p && q ? equalArrays(p, q) : p === q);
  return equal(a.cell, b.cell) && equal(a.region, b.region) && equal(a.rule, b.rule) && equal(a.at, b.at);
}

/** Throws `EditRefused` where it is not there. */
export function modelOf(kit: Kit, id: string): Model {
  const model = kit.models.find((m) => m.id === id);
  if (!model) throw new EditRefused(`the kit has no model “${id}” any more`);
  return model;
}

export const lockedRegions = ({ regions }: Model): Set<number> | null => {
  const locked = regions.filter((r) => r.locked).map((r) => r.id);
  return locked.length ? new Set(locked) : null;
};

export const lockedError = (model: Model, region: number): EditRefused =>
  new EditRefused(
    `faces of “${model.name}” lie in the locked region “${model.regions.find((r) => r.id === region)?.name ?? ''}”. Unlock it first`,
  );
