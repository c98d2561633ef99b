import { longestTemplate, templateLimits } from '../../ground/limits';
import { extensionOf, stemOf } from '../../ground/bytes/text';
import type { HandOff, HandOffPart, Kit } from '../../kit/kit';
import { kindOfExtension, paletteExtensions } from '../../ground/palettes/paletteFile';
import { formatIds, newHandOff, newPart, partFormats, usualIcon } from '../../kit/handOffPlan';
import { nameInPath } from './template';
import { folderOf } from './tree';

/** A file of an example: where it lies, how large it is, and what a JSON file says. */
export interface ExampleFile {
  path: string;
  bytes: number;
  text?: string;
}

const styles = (['small', 'kept'] as const).flatMap((letters) => (['-', '_', ''] as const).map((between) => ({ letters, between })));
const version = /\d+\.\d+(?:\.\d+)?/;

/**
 * A plan that writes a tree like this one: names of the kit, of its models and sheets become fields, as does a
 * version; a JSON file becomes the manifest. Where the names are of another kit, files of one format in one
 * folder are taken to be its models. What no format is known for is left out.
 */
export function planFromExample(kit: Kit, files: readonly ExampleFile[], id: string, name: string): HandOff {
  const { isOwn, ...style } = styleOf(kit, files);
  const found = files.map((f) => version.exec(f.path)?.[0]).find((v) => v !== undefined);
  const plan: HandOff = { ...newHandOff(id, name), ...style, parts: [] };
  if (found) plan.version = found;
  const models = files.filter((f) => isModel(f.path));
  const fieldsIn = (path: string, like: readonly ExampleFile[]) => withFields(kit, { ...style, isOwn }, path, like, plan.version);
  for (const format of formatIds.filter((f) => partFormats[f].of === 'models')) {
    const own = models.filter((f) => extensionOf(f.path) === format);
    for (const path of new Set(own.map((f) => fieldsIn(f.path, own))))
      plan.parts.push({ ...newPart(format, path.includes('{model}') ? 'model' : 'kit'), path });
  }
  const pictures = files.filter((f) => extensionOf(f.path) === 'png');
  const icon = pictures.find((f) => /icon|thumb|cover/i.test(stemOf(f.path)));
  if (icon) plan.icon = { ...usualIcon, path: fieldsIn(icon.path, []) };
  const sheets = new Set(pictures.filter((f) => f !== icon).map((f) => sheetPath(kit, style, f.path)));
  const gltf = plan.parts.find((p) => p.format === 'gltf');
  for (const path of sheets) {
    if (gltf && path.includes('{sheet}')) gltf.pictures = path;
    else if (!besideObj(models, path)) plan.parts.push({ ...newPart('sheet'), path });
  }
  for (const file of files) {
    const extension = extensionOf(file.path);
    if (!paletteExtensions.includes(extension) || /^(png|jpe?g|webp|json|txt|css)$/.test(extension)) continue;
    const palette: HandOffPart = { ...newPart('palette'), palette: kindOfExtension(file.path), path: sheetPath(kit, style, file.path) };
    if (!plan.parts.some((p) => p.path === palette.path)) plan.parts.push(palette);
  }
  const manifest = files.find((f) => extensionOf(f.path) === 'json' && f.text !== undefined);
  if (manifest) {
    const read = manifestFrom(kit, files, manifest, plan);
    if (read) plan.manifest = { path: fieldsIn(manifest.path, []), template: read };
  }
  return plan;
}

type Style = Pick<HandOff, 'letters' | 'between'>;
const isModel = (path: string): boolean =>
  formatIds.some((f) => partFormats[f].of === 'models' && partFormats[f].extension === extensionOf(path));
/** A picture that an OBJ names lies in its folder, and leaves with it. */
const besideObj = (models: readonly ExampleFile[], path: string): boolean =>
  models.some((m) => extensionOf(m.path) === 'obj' && folderOf(m.path) === folderOf(path));

/** The letters and gaps in which most names of the kit are found, if any is. */
function styleOf(kit: Kit, files: readonly ExampleFile[]): Style & { isOwn: boolean } {
  const names = [kit.name, ...kit.models.map((m) => m.name)];
  const hits = (style: Style) => names.filter((n) => files.some((f) => f.path.includes(nameInPath(n, style)))).length;
  const best = styles.reduce((a, b) => (hits(b) > hits(a) ? b : a));
  return hits(best) ? { ...best, isOwn: true } : { letters: 'kept', between: '-', isOwn: false };
}

function withFields(
  kit: Kit,
  { isOwn, ...style }: Style & { isOwn: boolean },
  path: string,
  like: readonly ExampleFile[],
  said: string,
): string {
  const known = [
    ...kit.models.map((m) => ['{model}', nameInPath(m.name, style)] as const),
    ...(kit.name ? [['{kit}', nameInPath(kit.name, style)] as const] : []),
  ].sort((a, b) => b[1].length - a[1].length);
  let out = path;
  for (const [field, word] of known) out = out.split(field === '{kit}' ? word : whole(word)).join(field);
  const stem = stemOf(path);
  const isOneOfMany = like.filter((f) => depth(f.path) === depth(path)).length > 1;
  // A single name that is none of this kit's, among others that are, is meant as it stands.
  if (out === path && isModel(path) && (isOneOfMany || !isOwn)) {
    const field = isOneOfMany ? '{model}' : '{kit}';
    out = path
      .split('/')
      .map((part) => (part === stem ? field : part.replace(new RegExp(`^${escaped(stem)}(?=\\.)`), field)))
      .join('/');
  }
  return version.test(path) ? out.replace(said, '{version}') : out;
}

const depth = (path: string): number => path.split('/').length;
const escaped = (word: string): string => word.replace(/[.*+?^${}()|[\]\\]/g, '\\$&');
/** Only where no letter goes on before or behind it. */
const whole = (word: string): RegExp => new RegExp(`(?<![\\p{L}\\p{N}])${escaped(word)}(?![\\p{L}\\p{N}])`, 'gu');

const sheetPath = (kit: Kit, style: Style, path: string): string => {
  const own = kit.sheets.map((s) => nameInPath(s.name, style)).find((n) => stemOf(path).toLowerCase() === n.toLowerCase());
  const isOnly = kit.sheets.length === 1 && !/\{/.test(path);
  return own || isOnly ? `${folderOf(path)}{sheet}.${extensionOf(path)}` : path;
};

/** The template that would say what a manifest says; `null` where it is no JSON, or too much for a template. */
function manifestFrom(kit: Kit, files: readonly ExampleFile[], { path: own, text }: ExampleFile, plan: HandOff): string | null {
  const value = jsonOf(text!);
  if (value === undefined || depthOf(value) > templateLimits.depth) return null;
  const listed = new Map(files.filter((f) => f.path !== own).map((f) => [f.path, f]));
  /** Of one file: its path, name, size and sum become fields. */
  const ofFile = (v: unknown, file: ExampleFile): unknown => {
    if (v === file.path) return '{path}';
    if (v === file.path.split('/').at(-1)) return '{name}';
    if (v === file.bytes) return '{bytes}';
    if (typeof v === 'string' && /^[0-9a-f]{64}$/i.test(v)) return '{sha256}';
    if (Array.isArray(v)) return v.map((w) => ofFile(w, file));
    if (typeof v === 'object' && v !== null) return Object.fromEntries(Object.entries(v).map(([k, w]) => [k, ofFile(w, file)]));
    return v;
  };
  const fileIn = (v: unknown): ExampleFile | undefined => {
    if (typeof v === 'string') return listed.get(v);
    return typeof v === 'object' && v !== null
      ? Object.values(v)
          .map(fileIn)
          .find((f) => f !== undefined)
      : undefined;
  };
  const walk = (v: unknown, key = ''): unknown => {
    if (Array.isArray(v)) {
      const file = fileIn(v[0]);
      return v.length && file && v.every((w) => fileIn(w)) ? ['{each file}', ofFile(v[0], file)] : v.map((w) => walk(w));
    }
    if (typeof v === 'object' && v !== null) return Object.fromEntries(Object.entries(v).map(([k, w]) => [k, walk(w, k)]));
    if (typeof v === 'number') return v === listed.size ? '{files}' : v;
    if (typeof v !== 'string') return v;
    if (v === kit.name) return '{kit}';
    if (/^version$/i.test(key) && v) {
      plan.version = v.slice(0, 100);
      return '{version}';
    }
    if (/^(description|about|summary)$/i.test(key)) {
      plan.description = v.slice(0, 300);
      return '{description}';
    }
    // Braces of its own would be taken for fields.
    return v.replace(/[{}]/g, '');
  };
  const template = JSON.stringify(walk(value), null, 2);
  return template.length <= longestTemplate ? template : null;
}

function jsonOf(text: string): unknown {
  try {
    return JSON.parse(text);
  } catch {
    return undefined;
  }
}

/** How deep a value is nested, as far as that is of interest. */
function depthOf(value: unknown, depth = 0): number {
  if (typeof value !== 'object' || value === null || depth > templateLimits.depth) return depth;
  return Object.values(value).reduce<number>((most, v) => Math.max(most, depthOf(v, depth + 1)), depth);
}
