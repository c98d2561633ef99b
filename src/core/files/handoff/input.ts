import type { ExportModel } from '../leaving/exportModel';
import type { GltfCodecs } from '../gltf/openGltf';
import type { KitPictures } from '../../ground/pictures/picture';
import type { HandOff, KitState, Model } from '../../kit/kit';
import type { HandOffReport } from './report';
import type { PolyMesh } from '../../shapes/mesh/polyMesh';

export interface HandOffInput {
  state: KitState;
  handOff: HandOff;
  itemOf: (model: Model) => Promise<ExportModel>;
  /** Faces of a mesh that cannot be seen from any side: asked where a plan leaves them out. */
  unseenOf: (mesh: PolyMesh) => Uint32Array;
  /** The pictures that sheets are drawn from, and that of the icon. */
  pictures: KitPictures;
  /** What left before: files that are made of the same stand as they were. */
  since?: HandOffReport;
  codecs?: GltfCodecs;
  /** Told before each file which share is done; what it throws ends the work. */
  onStep?: (done: number) => void;
}
