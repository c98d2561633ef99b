import { rgbFromHex } from '../../ground/color/hex';
import type { ExportModel } from '../leaving/exportModel';
import type { IconOptions, Kit, Model } from '../../kit/kit';
import { boundsOf, measureFaces } from '../../shapes/mesh/measure';
import { triangulate } from '../../shapes/mesh/triangulate';
import { colorsOfCorners } from '../../faces/seat/colorsOfCorners';
import type { Pictures, Raster } from '../../ground/pictures/raster';
import { rasterInputOf } from '../../shapes/view/rasterFaces';
import { thumbnail } from '../../shapes/view/thumbnail';
import { iconViews } from '../../kit/handOffPlan';

/** The model that an icon shows. */
export const iconModel = ({ models }: Kit, { model }: IconOptions): Model | undefined => models.find((m) => m.id === model) ?? models[0];

/**
 * A square picture of a model, drawn on the processor, so that it is the same to the byte wherever it is drawn.
 * A face has the mean color of its corners.
 */
export function drawIcon(kit: Kit, { mesh, seats }: ExportModel, pictures: Pictures, { size, from, ground }: IconOptions): Raster {
  const { normals } = measureFaces(mesh);
  const triangles = triangulate(mesh, normals);
  const colors = colorsOfCorners(kit, mesh, seats, pictures);
  const colorOf = (f: number) => {
    const [start, end] = [mesh.faceStart[f]!, mesh.faceStart[f + 1]!];
    const sum = [0, 0, 0];
    for (let c = start; c < end; c++) for (let k = 0; k < 3; k++) sum[k]! += colors[c * 4 + k]! / (end - start);
    return sum;
  };
  const raster = thumbnail(rasterInputOf(mesh, triangles), boundsOf(mesh), normals, colorOf, size, { from: iconViews[from] });
  if (ground) layOn(raster, rgbFromHex(ground));
  return raster;
}

function layOn({ data }: Raster, ground: readonly number[]): void {
  for (let i = 0; i < data.length; i += 4) {
    const share = data[i + 3]! / 255;
    for (let k = 0; k < 3; k++) data[i + k] = Math.round(data[i + k]! * share + ground[k]! * (1 - share));
    data[i + 3] = 255;
  }
}
