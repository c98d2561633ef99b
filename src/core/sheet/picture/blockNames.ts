import { wordOfColor } from '../plan/wordOfColor';
import type { Block } from './readBlocks';

/**
 * A name for each block of a palette picture: its color, with its row where several have that color, and its
 * place in the row where that row has several. Gradients are called by their ends. Empty blocks get none.
 */
export function blockNames(blocks: readonly Block[]): string[] {
  const rows = [...new Set(blocks.map((b) => b.rect.y))].sort((p, q) => p - q);
  const rowOf = new Map(rows.map((y, i) => [y, i + 1]));
  const filled = new Map<number, number>();
  const places = new Map<Block, number>();
  for (const block of [...blocks].sort((p, q) => p.rect.x - q.rect.x)) {
    const place = (filled.get(block.rect.y) ?? 0) + 1;
    filled.set(block.rect.y, place);
    places.set(block, place);
  }
  const colors = blocks.map(colorOf);
  /** How many blocks have a color, and how many in one row. */
  const alike = new Map<string, number>();
  const countIn = (key: string) => alike.set(key, (alike.get(key) ?? 0) + 1);
  blocks.forEach(({ rect }, i) => [colors[i]!, `${colors[i]!} ${rect.y}`].forEach(countIn));
  return blocks.map((block, i) => {
    const color = colors[i]!;
    if (!color || alike.get(color) === 1) return color;
    const [row, place] = [rowOf.get(block.rect.y)!, places.get(block)!];
    if (rows.length === 1) return `${color}, place ${place}`;
    return alike.get(`${color} ${block.rect.y}`) === 1 ? `${color}, row ${row}` : `${color}, row ${row}, place ${place}`;
  });
}

function colorOf({ fill }: Block): string {
  if (fill.kind === 'solid') return wordOfColor(fill.color);
  if (fill.kind === 'gradient') return `${wordOfColor(fill.stops[0]!.color)} to ${wordOfColor(fill.stops.at(-1)!.color)}`;
  return fill.kind === 'art' ? 'art' : '';
}
