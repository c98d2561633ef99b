import type { Edit } from '@/core/edit/edit';
import type { KitState } from '@/core/kit/kit';
import { adjacencyOf } from '@/core/mesh/adjacency';
import { triangulate } from '@/core/mesh/triangulate';
import type { Finding, ProofModel, ProofSettings } from '@/core/proof/finding';
import { prove } from '@/core/proof/proof';
import { repairOf } from '@/core/proof/repairs';
import { given, meshAt } from './meshes';
import { openPictures, type PictureFile } from './pictures';

async function modelIn(state: KitState, id: string): Promise<ProofModel | undefined> {
  const model = state.kit.models.find((m) => m.id === id);
  if (!model) return undefined;
  const mesh = await meshAt(model.mesh);
  const adjacency = adjacencyOf(mesh);
  return { model, seats: state.seats[id]!, mesh, adjacency, triangles: triangulate(mesh, adjacency.normals) };
}

/** What is wrong before a kit leaves. */
export const proving = {
  /** Over these models, and the sheets and names of the whole kit. */
  async prove(state: KitState, models: readonly string[], files: PictureFile[], settings: ProofSettings): Promise<Finding[]> {
    const pictures = new Map([...(await openPictures(files))].map(([address, { raster }]) => [address, raster]));
    const own: ProofModel[] = [];
    for (const id of models) own.push(...[await modelIn(state, id)].filter((m) => m !== undefined));
    return given(prove({ kit: state.kit, models: own, pictures, settings, seats: state.seats }));
  },

  /** The edit that repairs a finding; see `repairOf`. */
  async repairFinding(state: KitState, finding: Finding, settings: ProofSettings): Promise<Edit | null> {
    return repairOf(state, finding, settings, finding.model ? await modelIn(state, finding.model) : undefined);
  },
};
