import { sheetOfPicture } from '@/core/faces/adopt/sheetOfPicture';
import { seatsByUvs, type UvSeats } from '@/core/faces/adopt/seatsByUvs';
import { takeApart, type Pictured, type TakenApart } from '@/core/faces/adopt/takeApart';
import type { NamedFile } from '@/core/ground/bytes/fileKinds';
import { encodePng } from '@/core/ground/pictures/png';
import type { Kit } from '@/core/kit/kit';
import { facesWhere } from '@/core/shapes/mesh/facesWhere';
import { faceCount, type PolyMesh } from '@/core/shapes/mesh/polyMesh';
import { cropRaster } from '@/core/sheet/picture/meanColor';
import { recognise } from '@/core/sheet/picture/readBlocks';
import type { Raster } from '@/core/ground/pictures/raster';
import { given, meshAt, picturesOf } from './meshes';
import { openPictures, type PictureFile } from './pictures';

/** A model's mesh by its address, and its files. */
export interface ModelFiles {
  id: string;
  mesh: string;
  files: NamedFile[];
}

/** A model's seats on the sheet that its picture shows. */
export interface SeatsOnSheet {
  id: string;
  sheet: string;
  seats: UvSeats;
}

/** A picture taken apart, for all models that show it. */
export interface PictureApart {
  /** `png`: the part of it that stays art. */
  picture: { name: string; width: number; height: number; png: Uint8Array | null };
  apart: TakenApart;
  /** Which models, and which of their faces, as in `apart.models`. */
  models: { id: string; faces: Uint32Array }[];
}

interface Shown {
  name: string;
  raster: Raster;
  faces: Uint32Array;
}

/** Faces whose slot names a picture. */
const facesShowing = (mesh: PolyMesh, name: string): Uint32Array =>
  facesWhere(faceCount(mesh), (f) => mesh.slots[mesh.faceSlot[f]!]!.picture?.toLowerCase() === name);

const isSamePicture = (a: Raster, b: Raster): boolean =>
  a.width === b.width && a.height === b.height && a.data.every((v, i) => v === b.data[i]);

/** The picture that most faces of the first model show, and all models that show the same one; `null` where it shows none. */
export async function shownPicture(
  models: ModelFiles[],
): Promise<{ picture: Shown; showing: { id: string; address: string; of: Pictured }[] } | null> {
  let picture = null as Shown | null;
  const showing: { id: string; address: string; of: Pictured }[] = [];
  for (const { id, mesh: address, files } of models) {
    const mesh = await meshAt(address);
    if (!mesh.uvSets[0]) continue;
    const shown = [...(await picturesOf(files))].map(([name, raster]) => ({ name, raster, faces: facesShowing(mesh, name) }));
    const first: Shown | null = picture;
    const own: Shown | undefined = first
      ? shown.find((p) => p.faces.length > 0 && isSamePicture(p.raster, first.raster))
      : shown.sort((a, b) => b.faces.length - a.faces.length)[0];
    if (own?.faces.length) {
      picture ??= own;
      showing.push({ id, address, of: { mesh, faces: own.faces } });
    } else if (!picture) return null;
  }
  return picture && { picture, showing };
}

/** The way back from pictures: to sheets of the kit, or to colors. */
export const adopting = {
  /** Seats of models whose pictures show a sheet of the kit; the others are left out. */
  async seatsByPictures(models: ModelFiles[], kit: Kit, artFiles: PictureFile[]): Promise<SeatsOnSheet[]> {
    const art = new Map([...(await openPictures(artFiles))].map(([address, { raster }]) => [address, raster]));
    const found: SeatsOnSheet[] = [];
    for (const { id, mesh: address, files } of models) {
      const mesh = await meshAt(address);
      if (!mesh.uvSets[0]) continue;
      for (const [name, picture] of await picturesOf(files)) {
        const faces = facesShowing(mesh, name);
        const sheet = faces.length ? sheetOfPicture(kit, art, picture) : null;
        if (!sheet) continue;
        found.push({ id, sheet: sheet.id, seats: seatsByUvs(mesh, faces, sheet) });
        break;
      }
    }
    return given(found);
  },

  /**
   * Takes the picture that most faces of the first model show apart, for all models that show the same one;
   * `null` where it shows none. `tolerance`: OKLab; below 0 nothing is taken for a color.
   */
  async takeApart(models: ModelFiles[], tolerance: number): Promise<PictureApart | null> {
    const found = await shownPicture(models);
    if (!found) return null;
    const { picture, showing } = found;
    const { name, raster } = picture;
    const apart = takeApart(
      raster,
      recognise(raster),
      showing.map((s) => s.of),
      tolerance,
    );
    const art = apart.blocks.find((b) => b.fill.kind === 'art');
    const png = art ? encodePng(cropRaster(raster, art.rect)) : null;
    return given({
      picture: { name, width: raster.width, height: raster.height, png },
      apart,
      models: showing.map(({ id, of }) => ({ id, faces: of.faces })),
    });
  },
};
