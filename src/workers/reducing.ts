import { eachTexel, faceTexels } from '@/core/faces/adopt/uvTexels';
import type { ModelOnPicture } from '@/core/faces/adopt/takeReduced';
import { texelsUnder } from '@/core/faces/seat/texelsOnFaces';
import { encodePng } from '@/core/ground/pictures/png';
import { byFileUvs } from '@/core/islands/fileUvs';
import type { Cell, Seats } from '@/core/kit/kit';
import { facesWhere } from '@/core/shapes/mesh/facesWhere';
import { reducePicture, type Reduced, type Reduction } from '@/core/sheet/reduce/reduce';
import { shownPicture, type ModelFiles } from './adopting';
import { given, meshAt } from './meshes';
import { openPictures, type PictureFile } from './pictures';
import { surfaceAt } from './unwrapping';

/** A picture with which a model came, and where it is shown. */
export interface CamePicture {
  name: string;
  width: number;
  height: number;
  png: Uint8Array;
  /** Its texels that lie under faces, 1 each. */
  under: Uint8Array;
  models: Omit<ModelOnPicture, 'faceStart'>[];
  /** Faces that repeat it beyond its edges: on a sheet with other cells they cannot. */
  left: number;
}

/** Pictures in few colors and few big texels. */
export const reducing = {
  /** The picture that most faces of the first model show, for all models that show it; `null` where it shows none. */
  async pictureOfModels(models: ModelFiles[]): Promise<CamePicture | null> {
    const found = await shownPicture(models);
    if (!found) return null;
    const { name, raster } = found.picture;
    const { width, height } = raster;
    const whole: Cell = { id: 1, rect: { x: 0, y: 0, w: 1, h: 1 }, role: '', fill: { kind: 'art', picture: '' } };
    const under = new Uint8Array(width * height);
    const laid: CamePicture['models'] = [];
    let left = 0;
    for (const { id, address, of } of found.showing) {
      const own = byFileUvs(await surfaceAt(address), of.faces, whole)!;
      left += own.left.length;
      for (const f of own.faces) eachTexel(faceTexels(of.mesh, f, width, height), width, height, (x, y) => void (under[y * width + x] = 1));
      if (own.faces.length) laid.push({ id, faces: own.faces, at: own.texels });
    }
    return given({ name, width, height, png: encodePng(raster), under, models: laid, left });
  },

  /** The texels of an art of `size` that faces of some models show, 1 each. */
  async texelsShown(cell: number, size: { width: number; height: number }, models: { mesh: string; seats: Seats }[]): Promise<Uint8Array> {
    const under = new Uint8Array(size.width * size.height);
    for (const { mesh: address, seats } of models) {
      const faces = facesWhere(seats.cell.length, (f) => seats.cell[f] === cell);
      if (!faces.length) continue;
      texelsUnder(await meshAt(address), seats, { id: cell }, size, faces).forEach((isUnder, t) => isUnder && (under[t] = 1));
    }
    return given(under);
  },

  /** A picture reduced; see `reducePicture`. */
  async reduce(file: PictureFile, under: Uint8Array, reduction: Reduction): Promise<Reduced> {
    const { raster } = (await openPictures([file])).get(file.address)!;
    return given(reducePicture(raster, reduction, under.length === raster.width * raster.height ? under : undefined));
  },
};
