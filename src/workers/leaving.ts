import type { PaintedKit } from '@/core/kit/pixels';
import { byId } from '@/core/ground/byId';
import { costOfGltf } from '@/core/files/budget/costOfGltf';
import type { Cost } from '@/core/files/budget/tally';
import { isGltfModel, type ExportModel } from '@/core/files/leaving/exportModel';
import type { LeaveOptions } from '@/core/kit/leaveOptions';
import { safeName, uniqueNames } from '@/core/ground/bytes/fileNames';
import type { NamedFile } from '@/core/ground/bytes/fileKinds';
import { openGltf, openKept, type OpenedGltf } from '@/core/files/gltf/openGltf';
import { slotPicturesOf } from '@/core/files/formats/slotPicturesOf';
import { writeGlb } from '@/core/files/gltf/writeGlb';
import { writeScene, type SceneOptions } from '@/core/files/gltf/writeScene';
import { joinedNodes } from '@/core/files/gltf/joinedNodes';
import { lossesOf, type LossOptions } from '@/core/files/formats/losses';
import { enlarged } from '@/core/ground/pictures/enlarge';
import { encodePng } from '@/core/ground/pictures/png';
import { writeObj } from '@/core/files/formats/writeObj';
import { writePly } from '@/core/files/formats/writePly';
import { writeStl } from '@/core/files/formats/writeStl';
import { rastersOf } from '@/core/sheet/encode';
import { zipOf } from '@/core/ground/bytes/zip';
import { readExample } from '@/core/files/handoff/readExample';
import type { HandOffInput } from '@/core/files/handoff/input';
import type { HandOffReport } from '@/core/files/handoff/report';
import { iconBytes, writeHandOff } from '@/core/files/handoff/writeHandOff';
import type { HandOff, IconOptions, Kit, Model, Seats } from '@/core/kit/kit';
import { patchesByVariant, withPatches } from '@/core/kit/patches';
import { readPalette, writePalette } from '@/core/ground/palettes/paletteFile';
import type { Raster } from '@/core/ground/pictures/raster';
import { readArchive, writeArchive } from '@/data/archive';
import { readStageFile } from '@/data/stageFile';
import { costOfVariant, type VariantCost } from '@/core/files/budget/costOfVariant';
import { codecs } from './codecs';
import { type PictureFile, openPictures } from './pictures';
import { given, meshAt } from './meshes';
import { neverSeen } from './rays';

/** A model that leaves, with its files; its mesh is read from the storage. */
export interface Leaving {
  model: Model;
  seats: Seats;
  /** What variants say of its faces, by variant. */
  patches?: ExportModel['patches'];
  files: NamedFile[];
  /** 1 for each face that does not leave. */
  leaveOut?: Uint8Array;
  /** Its faces that cannot be seen from any side, where they are known already. */
  unseen?: Uint32Array;
}

/** What a file would cost, and what would not leave in it, model by model. */
export interface Measured {
  cost: Cost;
  fileBytes: number;
  losses: { model: string; lost: string[] }[];
}

const itemsOf = (models: Leaving[]): Promise<ExportModel[]> =>
  Promise.all(models.map(async ({ model, unseen: _, ...rest }) => ({ model, mesh: await meshAt(model.mesh), ...rest })));

/** A model's glTF, opened. */
const sourceOf = async (item: ExportModel): Promise<OpenedGltf | undefined> =>
  isGltfModel(item) ? openKept(item.files, codecs) : undefined;

/** What leaves: models, palettes, archives. */
export const leaving = {
  async exportGlb(kit: Kit, models: Leaving[], pictures: PictureFile[], options: LeaveOptions): Promise<Uint8Array> {
    return writeGlb(kit, await itemsOf(models), { ...options, codecs, pictures: await openPictures(pictures) });
  },

  /** The stage as one file; `models` are those that stand there. */
  async exportScene(kit: Kit, models: Leaving[], pictures: PictureFile[], options: SceneOptions): Promise<Uint8Array> {
    return writeScene(kit, await itemsOf(models), { ...options, codecs, pictures: await openPictures(pictures) });
  },

  readStageFile,

  /** A GLB without its bytes: figures of the file that would leave. */
  async measureGlb(kit: Kit, models: Leaving[], pictures: PictureFile[], options: LeaveOptions): Promise<Measured> {
    const bytes = await leaving.exportGlb(kit, models, pictures, options);
    const { document } = await openGltf('export.glb', bytes);
    const losses = await leaving.losses(kit, models, 'glb', options);
    for (const item of await itemsOf(models)) {
      const source = await sourceOf(item);
      const gone = source ? joinedNodes(source.document, document) : [];
      if (gone.length) losses.push({ model: item.model.name, lost: gone });
    }
    return { cost: costOfGltf(document), fileBytes: bytes.length, losses };
  },

  /** What one variant adds to the GLB that would leave. */
  async measureVariant(kit: Kit, models: Leaving[], pictures: PictureFile[], options: LeaveOptions, id: string): Promise<VariantCost> {
    const written = async (variants: Kit['variants']) => {
      const bytes = await leaving.exportGlb({ ...kit, variants }, models, pictures, { ...options, packed: false, variants: 'inside' });
      return (await openGltf('export.glb', bytes)).document;
    };
    return costOfVariant(await written(kit.variants.filter((v) => v.id === id)), await written([]));
  },

  async losses(kit: Kit, models: Leaving[], format: LossOptions['format'], options: LeaveOptions): Promise<Measured['losses']> {
    const out: Measured['losses'] = [];
    for (const item of await itemsOf(models)) {
      const source = await sourceOf(item);
      const lost = lossesOf(kit, item, { ...options, format, isWholeKit: models.length > 1, ...(source && { source }) });
      if (lost.length) out.push({ model: item.model.name, lost });
    }
    return out;
  },

  async exportObjZip(kit: Kit, models: Leaving[], pictures: PictureFile[], name: string, options: LeaveOptions): Promise<Uint8Array> {
    const items = await itemsOf(models);
    const files = writeObj(kit, items, safeName(name), {
      ...options,
      pictures: await openPictures(pictures),
      pictureOfSlot: await slotPicturesOf(items, codecs),
    });
    return zipOf(uniqueNames(files.map((f) => f.name)).map((n, i) => ({ name: n, bytes: files[i]!.bytes })));
  },

  async exportLoose(
    kit: Kit,
    models: Leaving[],
    pictures: PictureFile[],
    format: 'ply' | 'stl',
    options: LeaveOptions,
  ): Promise<Uint8Array> {
    const items = await itemsOf(models);
    return format === 'stl' ? writeStl(items, options) : writePly(kit, items, rastersOf(await openPictures(pictures)), options);
  },

  /** A hand-off's files, or the same as one zip, and the report of it. */
  async handOff(
    { kit, pixels }: PaintedKit,
    handOff: HandOff,
    models: Leaving[],
    pictures: PictureFile[],
    as: 'zip' | 'files',
    onStep: (done: number) => void,
    since?: HandOffInput['since'],
  ): Promise<{ files: NamedFile[]; report: HandOffReport }> {
    const items = new Map((await itemsOf(models)).map((item) => [item.model.id, item]));
    const itemOf = (model: Model) => Promise.resolve(items.get(model.id)!);
    const seats = byId(models.map((m) => [m.model.id, m.seats] as const));
    const state = withPatches({ kit, seats, ...(pixels && { pixels }) }, patchesByVariant(models));
    const known = new Map(models.flatMap((m) => (m.unseen ? [[items.get(m.model.id)!.mesh, m.unseen] as const] : [])));
    const { files, report } = await writeHandOff({
      state,
      handOff,
      itemOf,
      unseenOf: (mesh) => known.get(mesh) ?? neverSeen(mesh),
      pictures: await openPictures(pictures),
      codecs,
      onStep,
      ...(since && { since }),
    });
    return given({ files: as === 'zip' ? [{ name: '', bytes: zipOf(files) }] : files, report });
  },

  /** The icon of a hand-off as it would leave. */
  async icon(kit: Kit, models: Leaving[], pictures: PictureFile[], icon: IconOptions): Promise<Uint8Array> {
    const items = await itemsOf(models);
    return iconBytes(kit, icon, await openPictures(pictures), (model) => Promise.resolve(items.find((i) => i.model.id === model.id)!));
  },

  readExample,
  readPalette,
  writePalette,
  writeArchive,
  readArchive,
  /** `times`: each texel becomes a block of so many a side; `name`: of what, for the words. */
  encodePng: (raster: Raster, times = 1, name = 'art') => encodePng(enlarged(raster, times, name)),
};
