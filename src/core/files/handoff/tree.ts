import { byId } from '../../ground/byId';
import { safeName } from '../../ground/bytes/fileNames';
import { leaveDefaults, type LeaveOptions } from '../../kit/leaveOptions';
import { extensionOf, stemOf } from '../../ground/bytes/text';
import { findSheet, type HandOff, type HandOffPart, type Kit, type KitState, type Model, type Seats, type Sheet } from '../../kit/kit';
import { patchedSeats } from '../../kit/patches';
import { kitApart, looksOfSheet } from '../../kit/colorings/shown';
import type { PolyMesh } from '../../shapes/mesh/polyMesh';
import { finishLayers, finishOfSheet, type FinishLayer } from '../../sheet/finish';
import { partFormats, type FormatId } from '../../kit/handOffPlan';
import { filled, nameInPath, pathProblem, type Fields } from './template';

/** A file that a hand-off will write, told by the kit alone. */
export interface PlannedFile {
  path: string;
  /** Index into the parts; -1: the manifest or the icon. */
  part: number;
  models: readonly Model[];
  /** A key of `partFormats`. */
  format?: string;
  /** The variant that it shows, by its id, where each coloring has a file of its own. */
  variant?: string;
  /** Names of the colorings that are all in it. */
  inside?: string[];
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
export function plannedFiles(state: KitState, handOff: HandOff): PlannedFile[] {
  const { kit } = state;
  const colorings = coloringsOf(state);
  const out: PlannedFile[] = handOff.parts.flatMap((part, i) => filesOf(kit, handOff, part, i, colorings));
  for (const own of [handOff.icon, handOff.list, handOff.manifest])
    if (own) out.push({ path: filled(own.path, fieldsOf(kit, handOff)), part: -1, models: [] });
  /** Whether it is a sheet's picture, texel for texel. */
  const isAsItIs = ({ sheet, beside, part }: PlannedFile) =>
    sheet !== undefined && (beside !== undefined || (handOff.parts[part]?.format === 'sheet' && (handOff.parts[part].times ?? 1) === 1));
  const taken = new Map<string, PlannedFile>();
  return out.flatMap((file) => {
    const key = file.path.toLowerCase();
    const first = taken.get(key);
    if (
      first &&
      first.path === file.path &&
      isAsItIs(first) &&
      isAsItIs(file) &&
      isSameSheet(first.sheet, file.sheet) &&
      first.layer === file.layer
    )
      return [];
    taken.set(key, first ?? file);
    const problem = pathProblem(file.path) || (first ? `there is another file at “${first.path}”.` : '');
    return [{ ...file, ...(problem && { problem }) }];
  });
}

const isSameSheet = (a: Sheet | undefined, b: Sheet | undefined): boolean =>
  a === b || (a !== undefined && b !== undefined && a.name === b.name && looksOfSheet(a) === looksOfSheet(b));

/** Whether pictures of faces not yet colored may leave beside the files of a plan. */
export function bringsPictures({ kit, seats }: KitState, handOff: HandOff, meshOf: (model: Model) => PolyMesh | undefined): boolean {
  if (!handOff.parts.some((p) => p.format === 'gltf' || p.format === 'obj')) return false;
  return kit.models.some((model) => {
    const mesh = meshOf(model);
    return mesh?.slots.some((s) => s.picture) && seats[model.id]!.cell.some((c, f) => c === 0 && mesh.slots[mesh.faceSlot[f]!]!.picture);
  });
}

export const fieldsOf = (
  kit: Kit,
  handOff: HandOff,
  { model, sheet, variant }: { model?: Model; sheet?: Sheet; variant?: string } = {},
): Fields =>
  byId<string>([
    ['kit', nameInPath(kit.name, handOff)],
    ['version', handOff.version],
    ...(model ? [['model', nameInPath(model.name, handOff)] as const] : []),
    ...(sheet ? [['sheet', nameInPath(sheet.name, handOff)] as const] : []),
    ...(variant !== undefined ? [['variant', nameInPath(variant, handOff)] as const] : []),
  ]);

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

/** A coloring in which models leave: the default, without an id, or a variant. */
interface Coloring {
  id?: string;
  name: string;
  /** The model that it is of alone. */
  model?: string;
  /** As it shows the kit, with sheets that differ under names of their own. */
  kit: Kit;
  /** The sheets that faces of a model sit on, by the model's id. */
  used: Map<string, Set<Sheet>>;
}

function coloringsOf({ kit, seats, patches = byId<never>() }: KitState): Coloring[] {
  const usedIn = (shown: Kit, seatsOf: (model: string) => Pick<Seats, 'cell'>) => {
    const sheetOf = new Map(shown.sheets.flatMap((sheet) => sheet.cells.map((c) => [c.id, sheet] as const)));
    return new Map(kit.models.map(({ id }) => [id, new Set([...new Set(seatsOf(id).cell)].flatMap((c) => sheetOf.get(c) ?? []))]));
  };
  const variants = kit.variants.map((v): Coloring => {
    const shown = kitApart(kit, v);
    const used = usedIn(shown, (id) => patchedSeats(seats[id]!, patches[v.id]?.[id]));
    return { id: v.id, name: v.name, ...(v.model !== undefined && { model: v.model }), kit: shown, used };
  });
  return [{ name: defaultColoring, kit, used: usedIn(kit, (id) => seats[id]!) }, ...variants];
}

/** What the coloring without a variant is called in paths and lists. */
export const defaultColoring = 'default';

function filesOf(kit: Kit, handOff: HandOff, part: HandOffPart, index: number, colorings: readonly Coloring[]): PlannedFile[] {
  const format = partFormats[part.format as FormatId];
  const isApart = part.variants === 'apart';
  if (format.of === 'sheets')
    return (isApart ? colorings.filter((c) => c.model === undefined) : colorings.slice(0, 1)).flatMap(({ id, name, kit: shown }) =>
      shown.sheets.map((sheet, s) => ({
        // The variant stands in the path by itself.
        path: filled(part.path, fieldsOf(kit, handOff, { sheet: isApart ? kit.sheets[s]! : sheet, variant: name })),
        part: index,
        format: part.format,
        models: [],
        sheet,
        ...(id !== undefined && { variant: id }),
      })),
    );
  return modelsByFile(kit, part).flatMap((models) => {
    const concerning = colorings.filter((c) => c.model === undefined || models.some((m) => m.id === c.model));
    return (isApart ? concerning : concerning.slice(0, 1)).flatMap((own) =>
      filesOfModels(kit, handOff, part, index, models, own, concerning),
    );
  });
}

/** The file that some models leave in, as one coloring shows them or with all of these inside, and those beside it. */
function filesOfModels(
  kit: Kit,
  handOff: HandOff,
  part: HandOffPart,
  index: number,
  models: Model[],
  own: Coloring,
  all: readonly Coloring[],
): PlannedFile[] {
  const way = wayOf(part, models);
  const isInside = part.variants !== 'apart' && hasVariantsInside(part, way);
  const path = filled(part.path, fieldsOf(kit, handOff, { ...(part.each === 'model' && { model: models[0]! }), variant: own.name }));
  const file: PlannedFile = {
    path,
    part: index,
    format: part.format,
    models,
    ...(own.id !== undefined && { variant: own.id }),
    ...(isInside && all.length > 1 && { inside: all.map((c) => c.name) }),
  };
  const second = { gltf: 'bin', obj: 'mtl' }[part.format];
  if (!second) return [file];
  const sheets = way === 'texture' ? sheetsInFile(models, isInside ? [own, ...all.filter((c) => c !== own)] : [own]) : [];
  return [
    file,
    { ...file, path: `${withoutExtension(path)}.${second}`, beside: path },
    ...sheets.flatMap((sheet, i) =>
      // What is not color is common to all variants of a sheet.
      layersOf(sheet, part, sheets.findIndex((s) => s.id === sheet.id) === i).map((layer) => ({
        ...file,
        path: picturePath(kit, handOff, part, path, layer && isInside ? findSheet(kit, sheet.id) : sheet, layer),
        beside: path,
        sheet,
        ...(layer && { layer }),
      })),
    ),
  ];
}

/** Whether a file that models leave in can hold all variants, and is meant to. */
export const hasVariantsInside = ({ format, options }: Pick<HandOffPart, 'format' | 'options'>, way: LeaveOptions['as']): boolean =>
  (format === 'glb' || format === 'gltf') && way !== 'colors' && (options.variants ?? leaveDefaults.variants) === 'inside';

/** The sheets that models sit on in any of these colorings, each look once, under the name of the first that has it. */
function sheetsInFile(models: readonly Model[], colorings: readonly Coloring[]): Sheet[] {
  const seen = new Set<string>();
  return colorings.flatMap(({ kit, used, model }) =>
    kit.sheets.filter((sheet) => {
      const isUsed = models.some((m) => (model === undefined || model === m.id) && used.get(m.id)!.has(sheet));
      if (!isUsed || seen.has(looksOfSheet(sheet))) return false;
      seen.add(looksOfSheet(sheet));
      return true;
    }),
  );
}

/** The pictures of a sheet that leave with a part: its colors, and what else its materials name. */
function layersOf(sheet: Sheet, { format, options }: HandOffPart, isFirst: boolean): (FinishLayer | undefined)[] {
  const { finish, unlit } = { ...leaveDefaults, ...options };
  if (format !== 'gltf' || !finish || unlit || !isFirst) return [undefined];
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
