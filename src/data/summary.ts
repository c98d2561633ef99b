import type { Kit } from '@/core/kit/kit';

/** What the home page says of a kit. */
export const summaryOf = (kit: Kit): { name: string; models: number; colors: string[]; sheet: string } => ({
  name: kit.name,
  models: kit.models.length,
  sheet: kit.sheets.length === 1 ? `${kit.sheets[0]!.width} × ${kit.sheets[0]!.height} texels` : `${kit.sheets.length} sheets`,
  colors: kit.sheets.flatMap((s) => s.cells.flatMap((c) => (c.fill.kind === 'solid' ? [c.fill.color] : []))).slice(0, 16),
});
