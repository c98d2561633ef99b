import { costOfGltf } from '@/core/budget/costOfGltf';
import type { Cost } from '@/core/budget/tally';
import type { ExportModel, LeaveAs } from '@/core/io/exportModel';
import { safeName, uniqueNames } from '@/core/io/fileNames';
import { openGltf } from '@/core/io/gltf/openGltf';
import { writeGlb } from '@/core/io/gltf/writeGlb';
import { encodePng } from '@/core/io/png';
import { writeObj } from '@/core/io/writeObj';
import type { Kit } from '@/core/kit/kit';
import { readPalette, writePalette } from '@/core/palette/paletteFile';
import type { Raster } from '@/core/sheet/raster';
import { readArchive, writeArchive } from '@/data/archive';
import { zipSync } from 'fflate';
import { codecs } from './codecs';
import { type PictureFile, openPictures } from './pictures';

/** What leaves: models, palettes, archives. */
export const leaving = {
  async exportGlb(
    kit: Kit,
    models: ExportModel[],
    pictures: PictureFile[],
    { unlit, as }: { unlit: boolean; as: LeaveAs },
  ): Promise<{ bytes: Uint8Array; cost: Cost }> {
    const bytes = await writeGlb(kit, models, { unlit, as, codecs, pictures: await openPictures(pictures) });
    return { bytes, cost: costOfGltf((await openGltf('export.glb', bytes)).document) };
  },

  async exportObjZip(kit: Kit, models: ExportModel[], pictures: PictureFile[], name: string, as: LeaveAs): Promise<Uint8Array> {
    const files = writeObj(kit, models, safeName(name), { pictures: await openPictures(pictures), as });
    return zipSync(Object.fromEntries(uniqueNames(files.map((f) => f.name)).map((n, i) => [n, files[i]!.bytes])));
  },

  readPalette,
  writePalette,
  writeArchive,
  readArchive,
  encodePng: (raster: Raster) => encodePng(raster),
};
