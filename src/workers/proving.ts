import type { Edit } from '@/core/kit/edit/edit';
import { hexFromRgb, type Hex } from '@/core/ground/color/hex';
import type { KitState, Sheet } from '@/core/kit/kit';
import { cellErrors, compressed, type BlockFormat } from '@/core/sheet/blocks';
import { rastersOf } from '@/core/sheet/encode';
import { rasterSheet } from '@/core/sheet/raster';
import type { Raster } from '@/core/ground/pictures/raster';
import { adjacencyOf } from '@/core/shapes/mesh/adjacency';
import type { PolyMesh } from '@/core/shapes/mesh/polyMesh';
import { triangulate } from '@/core/shapes/mesh/triangulate';
import type { Finding, ProofModel, ProofSettings } from '@/core/judging/proof/finding';
import { prove } from '@/core/judging/proof/proof';
import type { Recoloring } from '@/core/judging/proof/recoloring';
import { repairFor } from '@/core/judging/proof/checks';
import { remembered } from '@/core/ground/remembered';
import { meshAt } from './meshes';
import { openPictures, type PictureFile } from './pictures';

const trianglesOf = remembered((mesh: PolyMesh) => triangulate(mesh, adjacencyOf(mesh).normals));

async function modelIn(state: KitState, id: string): Promise<ProofModel | undefined> {
  const model = state.kit.models.find((m) => m.id === id);
  if (!model) return undefined;
  const mesh = await meshAt(model.mesh);
  return { model, seats: state.seats[id]!, mesh, adjacency: adjacencyOf(mesh), triangles: trianglesOf(mesh) };
}

/** Colors of a sheet in blocks: how far each moves, in OKLab, and what is seen in its middle. */
export type BlockErrors = Record<BlockFormat, { cell: number; error: number; shown: Hex }[]>;

function middles(sheet: Sheet, id: number, { width, data }: Raster): { shown: Hex } {
  const { rect } = sheet.cells.find((c) => c.id === id)!;
  const at = ((rect.y + (rect.h >> 1)) * width + rect.x + (rect.w >> 1)) * 4;
  return { shown: hexFromRgb([data[at]!, data[at + 1]!, data[at + 2]!]) };
}

/** What is wrong before a kit leaves. */
export const proving = {
  /** Over these models, and the sheets and names of the whole kit. */
  async prove(
    state: KitState,
    models: readonly string[],
    files: PictureFile[],
    settings: ProofSettings,
    recoloring: Recoloring,
  ): Promise<Finding[]> {
    const pictures = new Map([...(await openPictures(files))].map(([address, { raster }]) => [address, raster]));
    const own: ProofModel[] = [];
    for (const id of models) own.push(...[await modelIn(state, id)].filter((m) => m !== undefined));
    // Copied, not handed over: what depends on a mesh alone is kept here for the next time.
    return prove({
      kit: state.kit,
      models: own,
      pictures,
      settings,
      recoloring,
      seats: state.seats,
      ...(state.patches && { patches: state.patches }),
    });
  },

  /** How far each color of a sheet moves where it is compressed in blocks, the farthest first; see `cellErrors`. */
  async blockErrors(sheet: Sheet, files: PictureFile[]): Promise<BlockErrors> {
    const raster = rasterSheet(sheet, rastersOf(await openPictures(files)));
    const of = (format: BlockFormat) => {
      const shown = compressed(raster, format);
      return [...cellErrors(sheet, raster, shown)]
        .map(([cell, error]) => ({ cell, error, ...middles(sheet, cell, shown) }))
        .sort((a, b) => b.error - a.error);
    };
    return { bc1: of('bc1'), etc1: of('etc1') };
  },

  /** The edit that repairs a finding; see `Repair`. */
  async repairFinding(state: KitState, finding: Finding, settings: ProofSettings): Promise<Edit | null> {
    return repairFor(finding)?.edit(state, finding, settings, finding.model ? await modelIn(state, finding.model) : undefined) ?? null;
  },
};
