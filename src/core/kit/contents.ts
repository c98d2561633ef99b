import type { Edit } from '../edit/edit';
import type { Fill, Kit, Model, Sheet, Variant } from './kit';

export const archiveExtension = '.oligochrome.zip';

const ofFill = (fill: Fill): string[] => (fill.kind === 'art' ? [fill.picture] : []);
const ofModel = (model: Model): string[] => [model.mesh, ...model.source.files.map((f) => f.content)];

/** Addresses of the pictures that a sheet is drawn from. */
export const picturesOfSheet = (sheet: Sheet): string[] => [
  ...(sheet.frozen ? [sheet.frozen.picture] : []),
  ...sheet.cells.flatMap((c) => ofFill(c.fill)),
];

/** Addresses of everything that a kit keeps beside its document: meshes, files and pictures. */
export const contentsOfKit = (kit: Kit): string[] => [
  ...new Set([
    ...kit.models.flatMap(ofModel),
    ...kit.sheets.flatMap(picturesOfSheet),
    ...kit.references.map((r) => r.picture),
    ...kit.variants.flatMap((v) => Object.values(v.fills).flatMap(ofFill)),
  ]),
];

/** Addresses that an edit may bring back. */
export function contentsOfEdit(edit: Edit): string[] {
  switch (edit.kind) {
    case 'group':
      return edit.edits.flatMap(contentsOfEdit);
    case 'remesh':
      return [edit.before, edit.after].flatMap(({ mesh, source }) => [mesh, ...(source?.files.map((f) => f.content) ?? [])]);
    case 'set':
      return [edit.before, edit.after].flatMap((fields) => ('frozen' in fields && fields.frozen ? [fields.frozen.picture] : []));
    case 'put':
      return [edit.before, edit.after].flatMap((entry) => {
        if (!entry) return [];
        if (edit.list === 'models') return ofModel(entry as Model);
        if (edit.list === 'sheets') return picturesOfSheet(entry as Sheet);
        if (edit.list === 'cells') return ofFill((entry as { fill: Fill }).fill);
        if (edit.list === 'variants') return Object.values((entry as Variant).fills).flatMap(ofFill);
        return edit.list === 'references' ? [(entry as { picture: string }).picture] : [];
      });
    default:
      return [];
  }
}
