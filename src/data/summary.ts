import type { Kit } from '@/core/kit/kit';

/** What the home page says of a kit. */
export const summaryOf = (kit: Kit): { name: string; models: number; colors: string[] } => ({
  name: kit.name,
  models: kit.models.length,
  colors: kit.sheets.flatMap((s) => s.cells.flatMap((c) => (c.fill.kind === 'solid' ? [c.fill.color] : []))).slice(0, 16),
});
