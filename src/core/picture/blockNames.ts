import { wordOfColor } from '../plan/wordOfColor';
import type { Block } from './readBlocks';

/**
 * A name for each block of a palette picture: its color, with its row where several have that color, and its
 * place in the row where that row has several. Gradients are called by their ends. Empty blocks get none.
 */
export function blockNames(blocks: readonly Block[]): string[] {
  const rows = [...new Set(blocks.map((b) => b.rect.y))].sort((p, q) => p - q);
  const places = blocks.map((b) => ({
    color: colorOf(b),
    row: rows.indexOf(b.rect.y) + 1,
    place: 1 + blocks.filter((other) => other.rect.y === b.rect.y && other.rect.x < b.rect.x).length,
  }));
  return places.map(({ color, row, place }) => {
    if (!color) return '';
    const alike = places.filter((p) => p.color === color);
    if (alike.length === 1) return color;
    if (rows.length === 1) return `${color}, place ${place}`;
    if (alike.filter((p) => p.row === row).length === 1) return `${color}, row ${row}`;
    return `${color}, row ${row}, place ${place}`;
  });
}

function colorOf({ fill }: Block): string {
  if (fill.kind === 'solid') return wordOfColor(fill.color);
  if (fill.kind === 'gradient') return `${wordOfColor(fill.stops[0]!.color)} to ${wordOfColor(fill.stops.at(-1)!.color)}`;
  return fill.kind === 'art' ? 'art' : '';
}
