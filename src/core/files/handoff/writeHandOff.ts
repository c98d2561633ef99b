import { byId } from '../../ground/byId';
import { sha256 } from '@noble/hashes/sha2.js';
import { bytesToHex } from '@noble/hashes/utils.js';
import type { ExportModel } from '../leaving/exportModel';
import type { NamedFile } from '../../ground/bytes/fileKinds';
import type { KitPictures } from '../../ground/pictures/picture';
import { encodePng } from '../../ground/pictures/png';
import { findVariant, type IconOptions, type Kit, type KitState } from '../../kit/kit';
import { patchedSeats } from '../../kit/patches';
import { kitApart } from '../../kit/colorings/shown';
import { writeList } from './list';
import { equalArrays } from '../../ground/equalArrays';
import { colorsOfSheet } from '../../sheet/palette/sheetPalette';
import { writePalette, type PaletteKind } from '../../ground/palettes/paletteFile';
import { encodeScaled, encodeSheet, rastersOf } from '../../sheet/encode';
import { drawIcon, iconModel } from './icon';
import { madeOf } from './madeOf';
import { writeModels } from './writeModels';
import { writeManifest } from './manifest';
import { partFormats, type FormatId } from '../../kit/handOffPlan';
import type { HandOffInput } from './input';
import type { FileReport, HandOffReport } from './report';
import { filled } from './template';
import { fieldsOf, plannedFiles, type PlannedFile } from './tree';

/**
 * Writes all files of a hand-off, or those that are made of something else than before, and says what left in each. The
 * same kit and hand-off give the same bytes. Throws where a path cannot be written, two files would have one path, the manifest's template is wrong, or
 * a model cannot be read.
 */
export async function writeHandOff(input: HandOffInput): Promise<{ files: NamedFile[]; report: HandOffReport }> {
  const { state, handOff, pictures, since, onStep } = input;
  const itemOf = leavingOf(input);
  const { kit } = state;
  const planned = plannedFiles(state, handOff);
  const [wrong] = planned.filter((f) => f.problem);
  if (wrong) throw new Error(`“${wrong.path}” cannot be written: ${wrong.problem}`);
  const out = new Handed();
  const main = planned.filter((f) => !f.beside && f.part >= 0);
  for (const [i, file] of main.entries()) {
    onStep?.(i / main.length);
    const own = madeOf(state, handOff, file);
    const stands = since && asItStood(since, planned, file, own);
    if (stands) {
      stands.forEach((report) => out.keep(report));
      continue;
    }
    const part = handOff.parts[file.part]!;
    if (partFormats[part.format as FormatId].of === 'models') {
      const items: ExportModel[] = [];
      for (const model of file.models) items.push(await itemOf(model));
      const [shown, way] = file.inside
        ? [state, part]
        : [stateApart(state, file), { ...part, options: { ...part.options, variants: 'none' as const } }];
      const shownItems = shown === state ? items : items.map((item) => inVariant(item, file));
      for (const { report, ...written } of await writeModels({ ...input, state: shown }, way, file.path, shownItems))
        out.add(written, { ...report, madeOf: own, ...(written.name !== file.path && { beside: file.path }) });
    } else out.add({ name: file.path, bytes: ofSheet(input, file) }, { madeOf: own });
  }
  if (handOff.icon)
    out.add({ name: filled(handOff.icon.path, fieldsOf(kit, handOff)), bytes: await iconBytes(kit, handOff.icon, pictures, itemOf) });
  if (handOff.list) {
    const text = writeList(state, handOff.version, planned, out.reports);
    out.add({ name: filled(handOff.list.path, fieldsOf(kit, handOff)), bytes: new TextEncoder().encode(text) });
  }
  if (handOff.manifest) {
    const { path, template } = handOff.manifest;
    const files = out.reports.map((r) => byId({ path: r.path, name: r.path.split('/').at(-1)!, bytes: r.bytes, sha256: r.sha256 }));
    const whole = byId({
      kit: kit.name,
      version: handOff.version,
      description: handOff.description,
      files: files.length,
      models: kit.models.length,
      bytes: out.reports.reduce((n, r) => n + r.bytes, 0),
    });
    const text = writeManifest(template, { whole, files, models: kit.models.map(({ name, faces }) => byId({ name, faces })) });
    out.add({ name: filled(path, fieldsOf(kit, handOff)), bytes: new TextEncoder().encode(text) });
  }
  return {
    files: out.files,
    report: {
      kit: kit.name,
      handOff: handOff.name,
      version: handOff.version,
      bytes: out.reports.reduce((n, r) => n + r.bytes, 0),
      files: out.reports,
    },
  };
}

/** What left before in a file and beside it, where it is made of the same and all of it did; else `null`. */
function asItStood({ files }: HandOffReport, planned: readonly PlannedFile[], { path }: PlannedFile, own: string): FileReport[] | null {
  const main = files.find((f) => f.path === path);
  if (main?.madeOf !== own) return null;
  // A picture that several files name was told beside the first of them, which may be gone by now.
  const beside = planned.filter((f) => f.beside === path).map((f) => files.find((r) => r.path === f.path));
  if (beside.some((r) => !r)) return null;
  const brought = files.filter((f) => f.beside === path);
  return [main, ...[...beside, ...brought].map((r) => ({ ...r!, beside: path, madeOf: own }))];
}

/** The kit as a file of its own shows it. */
function stateApart(state: KitState, { variant }: PlannedFile): KitState {
  return variant === undefined ? state : { ...state, kit: kitApart(state.kit, findVariant(state.kit, variant)) };
}

/** A model as a file of its own shows it. */
function inVariant({ patches, ...item }: ExportModel, { variant }: PlannedFile): ExportModel {
  return { ...item, seats: patchedSeats(item.seats, variant === undefined ? undefined : patches?.[variant]) };
}

/** Models as this plan lets them leave; which faces are never seen is found once for each mesh. */
function leavingOf({ handOff, itemOf, unseenOf }: HandOffInput): HandOffInput['itemOf'] {
  if (!handOff.withoutUnseen) return itemOf;
  return async (model) => {
    const item = await itemOf(model);
    const unseen = unseenOf(item.mesh);
    if (!unseen.length) return item;
    const leaveOut = new Uint8Array(model.faces);
    for (const f of unseen) leaveOut[f] = 1;
    return { ...item, leaveOut };
  };
}

/** What was written; each path once. */
class Handed {
  readonly files: NamedFile[] = [];
  readonly reports: FileReport[] = [];

  add(file: NamedFile, report: Partial<FileReport> = {}): void {
    const same = this.files.find((f) => f.name.toLowerCase() === file.name.toLowerCase());
    if (same && same.name === file.name && equalArrays(same.bytes, file.bytes)) return;
    if (same)
      throw new Error(
        `Two different files would be called “${file.name}”. Give each model a folder of its own, such as models/{model}/{model}.obj.`,
      );
    this.files.push(file);
    const sum = bytesToHex(sha256(file.bytes));
    this.tell({ path: file.name, bytes: file.bytes.length, sha256: sum, models: [], kept: [], changed: [], lost: [], ...report });
  }

  /** A file that stands as it was written before. */
  keep(report: FileReport): void {
    if (!this.reports.some((r) => r.path === report.path)) this.reports.push(report);
  }

  /** What was taken to stand as it was may be written with another file after all: it keeps its place. */
  private tell(report: FileReport): void {
    const at = this.reports.findIndex((r) => r.path === report.path);
    if (at < 0) this.reports.push(report);
    else {
      const { beside, madeOf: from } = this.reports[at]!;
      this.reports[at] = { ...report, ...(beside && { beside }), ...(from && { madeOf: from }) };
    }
  }
}

function ofSheet({ handOff, pictures }: HandOffInput, { part: index, sheet }: PlannedFile): Uint8Array {
  const part = handOff.parts[index]!;
  if (part.format === 'palette') return writePalette((part.palette ?? 'gpl') as PaletteKind, colorsOfSheet(sheet!), sheet!.name);
  const { bytes, mime } = encodeSheet(sheet!, pictures);
  // A picture that was kept as it came may be no PNG.
  return (part.times ?? 1) === 1 && mime === 'image/png' ? bytes : encodeScaled(sheet!, pictures, part.times ?? 1);
}

/** The icon as it leaves: PNG, or the artist's own picture as it is. Throws where there is nothing to draw. */
export async function iconBytes(kit: Kit, icon: IconOptions, pictures: KitPictures, itemOf: HandOffInput['itemOf']): Promise<Uint8Array> {
  const own = icon.picture && pictures.get(icon.picture);
  if (own) return own.bytes;
  const model = iconModel(kit, icon);
  if (!model) throw new Error('There is no model to draw as an icon.');
  return encodePng(drawIcon(kit, await itemOf(model), rastersOf(pictures), icon));
}
