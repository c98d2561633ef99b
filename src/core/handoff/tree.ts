import { safeName } from '../io/fileNames';
import { leaveDefaults, type LeaveOptions } from '../io/leaveOptions';
import { extensionOf, stemOf } from '../io/text';
import type { HandOff, HandOffPart, Kit, KitState, Model, Sheet } from '../kit/kit';
import type { PolyMesh } from '../mesh/polyMesh';
import { finishLayers, finishOfSheet, type FinishLayer } from '../sheet/finish';
import { partFormats, type FormatId } from './plan';
import { filled, nameInPath, pathProblem, type Fields } from './template';

/** A file that a hand-off will write, told by the kit alone. */
export interface PlannedFile {
  path: string;
  /** Index into the parts; -1: the manifest or the icon. */
  part: number;
  models: readonly Model[];
  sheet?: Sheet;
  /** What of the sheet it is, where not its colors. */
  layer?: FinishLayer;
  /** Written with the file of this path. */
  beside?: string;
  /** Why it cannot be written so. */
  problem?: string;
}

/**
 * All files of a hand-off in the order in which they are written. Pictures that models brought along lie beside
 * these and are not foreseen. Two files of one path, or of paths that differ in the size of letters alone, are a
 * problem of the second one; a sheet beside several models, or by itself as well, is one file.
 */
export function plannedFiles({ kit, seats }: KitState, handOff: HandOff): PlannedFile[] {
  const used = usedSheets(kit, seats);
  const out: PlannedFile[] = handOff.parts.flatMap((part, i) => filesOf(kit, handOff, part, i, used));
  for (const own of [handOff.icon, handOff.manifest])
    if (own) out.push({ path: filled(own.path, fieldsOf(kit, handOff)), part: -1, models: [] });
  /** Whether it is a sheet's picture, texel for texel. */
  const isAsItIs = ({ sheet, beside, part }: PlannedFile) =>
    sheet !== undefined && (beside !== undefined || (handOff.parts[part]?.format === 'sheet' && (handOff.parts[part].times ?? 1) === 1));
  const taken = new Map<string, PlannedFile>();
  return out.flatMap((file) => {
    const key = file.path.toLowerCase();
    const first = taken.get(key);
    if (first && first.path === file.path && isAsItIs(first) && isAsItIs(file) && first.sheet === file.sheet && first.layer === file.layer)
      return [];
    taken.set(key, first ?? file);
    const problem = pathProblem(file.path) || (first ? `there is another file at “${first.path}”.` : '');
    return [{ ...file, ...(problem && { problem }) }];
  });
}

/** Whether pictures of faces not yet colored may leave beside the files of a plan. */
export function bringsPictures({ kit, seats }: KitState, handOff: HandOff, meshOf: (model: Model) => PolyMesh | undefined): boolean {
  if (!handOff.parts.some((p) => p.format === 'gltf' || p.format === 'obj')) return false;
  return kit.models.some((model) => {
    const mesh = meshOf(model);
    return mesh?.slots.some((s) => s.picture) && seats[model.id]!.cell.some((c, f) => c === 0 && mesh.slots[mesh.faceSlot[f]!]!.picture);
  });
}

export const fieldsOf = (kit: Kit, handOff: HandOff, { model, sheet }: { model?: Model; sheet?: Sheet } = {}): Fields => ({
  kit: nameInPath(kit.name, handOff),
  version: handOff.version,
  ...(model && { model: nameInPath(model.name, handOff) }),
  ...(sheet && { sheet: nameInPath(sheet.name, handOff) }),
});

/** Models that leave in one file, for each file of a part. */
export const modelsByFile = (kit: Kit, { each }: HandOffPart): Model[][] =>
  each === 'model' ? kit.models.map((m) => [m]) : kit.models.length ? [[...kit.models]] : [];

/** How the colors of a file's models leave: one that leaves by itself may have a way of its own. */
export const wayOf = ({ ways, options, each }: HandOffPart, models: readonly Model[]): LeaveOptions['as'] =>
  (each === 'model' && ways?.[models[0]!.id]) || (options.as ?? 'texture');

/** Where a sheet lies that a glTF or OBJ at `path` names, or what else of it. */
export function picturePath(kit: Kit, handOff: HandOff, part: HandOffPart, path: string, sheet: Sheet, layer?: FinishLayer): string {
  if (part.format === 'gltf') {
    const own = filled(part.pictures ?? '', fieldsOf(kit, handOff, { sheet }));
    return layer ? `${withoutExtension(own)}-${layer}.png` : own;
  }
  return `${folderOf(path)}${safeName(sheet.name.toLowerCase(), 'sheet')}.png`;
}

/** The sheets that faces of a model sit on, by the model's id. */
function usedSheets(kit: Kit, seats: KitState['seats']): Map<string, Set<Sheet>> {
  const sheetOf = new Map(kit.sheets.flatMap((sheet) => sheet.cells.map((c) => [c.id, sheet] as const)));
  return new Map(kit.models.map(({ id }) => [id, new Set([...new Set(seats[id]!.cell)].flatMap((c) => sheetOf.get(c) ?? []))]));
}

function filesOf(kit: Kit, handOff: HandOff, part: HandOffPart, index: number, used: ReturnType<typeof usedSheets>): PlannedFile[] {
  const format = partFormats[part.format as FormatId];
  const pathWith = (of: { model?: Model; sheet?: Sheet }) => filled(part.path, fieldsOf(kit, handOff, of));
  if (format.of === 'sheets') return kit.sheets.map((sheet) => ({ path: pathWith({ sheet }), part: index, models: [], sheet }));
  return modelsByFile(kit, part).flatMap((models) => {
    const path = pathWith(part.each === 'model' ? { model: models[0]! } : {});
    const file: PlannedFile = { path, part: index, models };
    const second = { gltf: 'bin', obj: 'mtl' }[part.format];
    if (!second) return [file];
    const sheets = wayOf(part, models) === 'texture' ? kit.sheets.filter((s) => models.some((m) => used.get(m.id)!.has(s))) : [];
    return [
      file,
      { ...file, path: `${withoutExtension(path)}.${second}`, beside: path },
      ...sheets.flatMap((sheet) =>
        layersOf(sheet, part).map((layer) => ({
          ...file,
          path: picturePath(kit, handOff, part, path, sheet, layer),
          beside: path,
          sheet,
          ...(layer && { layer }),
        })),
      ),
    ];
  });
}

/** The pictures of a sheet that leave with a part: its colors, and what else its materials name. */
function layersOf(sheet: Sheet, { format, options }: HandOffPart): (FinishLayer | undefined)[] {
  const { finish, unlit } = { ...leaveDefaults, ...options };
  if (format !== 'gltf' || !finish || unlit) return [undefined];
  const own = finishOfSheet(sheet);
  return [undefined, ...finishLayers.filter((layer) => own[layer])];
}

export const folderOf = (path: string): string => path.slice(0, path.lastIndexOf('/') + 1);
export const withoutExtension = (path: string): string => (extensionOf(path) ? folderOf(path) + stemOf(path) : path);

/** How a file at `from` names one at `to`, both from the top of what leaves. */
export function relativePath(from: string, to: string): string {
  const [a, b] = [from.split('/').slice(0, -1), to.split('/')];
  let same = 0;
  while (same < a.length && same < b.length - 1 && a[same] === b[same]) same++;
  return [...a.slice(same).map(() => '..'), ...b.slice(same)].join('/');
}
