import { findCell, type Kit, type KitState } from '../../kit/kit';
import { fillsOfVariant, looksOfSheet, variantsOfLooks } from '../../kit/colorings/shown';
import { partFormats, type FormatId } from '../../kit/handOffPlan';
import type { FileReport } from './report';
import type { PlannedFile } from './tree';

export const listVersion = 1;

/**
 * What left, for scripts: models, variants, sheets and the files that hold them, so that no name is spelled by hand.
 * The schema is docs/list.schema.json. Names are exactly the kit's; paths from the top of what leaves.
 */
export function writeList(state: KitState, version: string, planned: readonly PlannedFile[], reports: readonly FileReport[]): string {
  const { kit } = state;
  const nameOf = (id: string | undefined) => kit.variants.find((v) => v.id === id)?.name ?? null;
  const holding = (file: PlannedFile): string[] => {
    if (file.inside) return file.inside;
    return [nameOf(file.variant) ?? 'default'];
  };
  const own = planned.filter((f) => f.part >= 0);
  const looks = variantsOfLooks(kit);
  const list = {
    format: 'oligochrome list',
    version: listVersion,
    kit: kit.name,
    kitVersion: version,
    startsWith: nameOf(kit.startsWith),
    variants: kit.variants.map((v) => ({
      name: v.name,
      model: kit.models.find((m) => m.id === v.model)?.name ?? null,
      colors: colorsIn(kit, v.id),
      models: kit.models.filter((m) => state.patches?.[v.id]?.[m.id]).map((m) => m.name),
    })),
    sheets: kit.sheets.map(({ id, name, width, height }) => ({
      name,
      width,
      height,
      files: own
        .filter((f) => f.sheet?.id === id && !f.layer)
        .map((f) => ({ path: f.path, variant: looks.get(looksOfSheet(f.sheet!)) ?? null })),
    })),
    models: kit.models.map((model) => ({
      name: model.name,
      faces: model.faces,
      files: own
        .filter((f) => !f.beside && f.models.includes(model))
        .map((f) => ({ path: f.path, format: partFormats[f.format as FormatId].extension, colorings: holding(f) })),
    })),
    files: reports.map(({ path, bytes, sha256 }) => ({ path, bytes, sha256 })),
  };
  return `${JSON.stringify(list, null, 2)}\n`;
}

/** The roles of the colors that differ in a variant, those without one by their number. */
function colorsIn(kit: Kit, id: string): string[] {
  const variant = kit.variants.find((v) => v.id === id)!;
  return Object.keys(fillsOfVariant(kit, variant)).map((cell) => findCell(kit, Number(cell))?.cell.role || `cell ${cell}`);
}
