import type { Cell, Fill } from '@/core/kit/kit';

/** A fill in a few words: its hex, or what it is. */
export function describe(fill: Fill): string {
  switch (fill.kind) {
    case 'solid':
      return fill.color;
    case 'gradient':
      return fill.bands ? `${fill.bands} bands` : `gradient, ${fill.stops.length} stops`;
    case 'corners':
      return 'gradient, four corners';
    case 'art':
      return 'art';
    case 'spare':
      return 'spare';
  }
}

export const roleOf = (cell: Cell): string => cell.role || (cell.fill.kind === 'art' ? 'Art' : 'Without a role');
