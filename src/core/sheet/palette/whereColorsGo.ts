import { rgbFromHex } from '../../ground/color/hex';
import { labDistance, labFromRgb, type Lab } from '../../ground/color/oklab';
import type { Cell, Fill } from '../../kit/kit';
import { meanColor } from '../raster';

/** What each cell takes of what is offered: an index, by cell. A cell that is not named stays as it is. */
export type Going = ReadonlyMap<number, number>;

/** Something offered to cells; art can be taken by none that is in use. */
export type Offer = Fill | { kind: 'art' };

/** `nearest`: the most alike. `lightness`: the darkest for the darkest, and so on. `order`: one to one, as both stand. */
export type GoingBy = 'nearest' | 'lightness' | 'order';

/**
 * Whether faces can stay where they are on a cell that takes this fill: any can sit on one color; on a gradient
 * those that lie along one that runs the same way.
 */
export const canTake = ({ fill }: Pick<Cell, 'fill'>, offer: Offer): boolean =>
  offer.kind === 'solid' || (offer.kind === 'gradient' && fill.kind === 'gradient' && fill.axis === offer.axis);

/** A proposal of what each cell takes. Gradients take the nearest gradient, where one is offered. */
export function proposeGoing(cells: readonly Cell[], offers: readonly Offer[], by: GoingBy): Map<number, number> {
  const going = new Map<number, number>();
  const indices = (kind: Offer['kind']) => offers.flatMap((o, i) => (o.kind === kind ? [i] : []));
  const colors = indices('solid');
  const labs = offers.map((o) => (o.kind === 'solid' || o.kind === 'gradient' ? labOf(o) : null));
  const plain = cells.filter((cell) => {
    const alike = indices('gradient').filter((i) => canTake(cell, offers[i]!));
    if (alike.length) going.set(cell.id, nearestOf(labOf(cell.fill), alike, labs));
    return !alike.length;
  });
  if (!colors.length) return going;
  if (by === 'nearest') for (const cell of plain) going.set(cell.id, nearestOf(labOf(cell.fill), colors, labs));
  else if (by === 'order') plain.slice(0, colors.length).forEach((cell, i) => going.set(cell.id, colors[i]!));
  else {
    const dark = [...plain].sort((p, q) => labOf(p.fill)[0] - labOf(q.fill)[0]);
    const offered = [...colors].sort((p, q) => labs[p]![0] - labs[q]![0]);
    dark.forEach((cell, rank) => {
      const share = dark.length > 1 ? rank / (dark.length - 1) : 0.5;
      going.set(cell.id, offered[Math.round(share * (offered.length - 1))]!);
    });
  }
  return going;
}

const labOf = (fill: Fill): Lab => (fill.kind === 'solid' ? labFromRgb(rgbFromHex(fill.color)) : labFromRgb(meanColor(fill)));

const nearestOf = (own: Lab, among: readonly number[], labs: readonly (Lab | null)[]): number =>
  among.reduce((best, i) => (labDistance(own, labs[i]!) < labDistance(own, labs[best]!) ? i : best));
