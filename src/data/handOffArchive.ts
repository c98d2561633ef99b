import type { HandOffInput } from '@/core/files/handoff/input';
import { patchesOfModel } from '@/core/kit/patches';
import type { HandOffReport } from '@/core/files/handoff/report';
import { writeHandOff } from '@/core/files/handoff/writeHandOff';
import { decodePicture } from '@/core/ground/pictures/decodePicture';
import { FileError } from '@/core/ground/bytes/errors';
import type { NamedFile } from '@/core/ground/bytes/fileKinds';
import type { GltfCodecs } from '@/core/files/gltf/openGltf';
import { unpack } from '@/core/ground/bytes/pack';
import type { KitPicture } from '@/core/ground/pictures/picture';
import { contentsOf, picturesOfSheet } from '@/core/kit/contents';
import { rastersOf } from '@/core/sheet/encode';
import { paintedPictures } from '@/core/sheet/painted';
import type { HandOff } from '@/core/kit/kit';
import { checkMesh } from '@/core/shapes/mesh/checkMesh';
import { readArchive } from './archive';

export interface HandedOff {
  files: NamedFile[];
  report: HandOffReport;
  /** Models that are broken, and so were left out: which and why. */
  leftOut: string[];
}

/**
 * Writes a plan of a kit's archive without the page: for the server and the command line. `plan`: its name or
 * id; the first where it is empty. `onStep`: told before each file; what it throws ends the work. The decoder of
 * pictures must have been started. Throws `FileError` where the archive cannot be read or has no such plan, and
 * an error where the plan cannot be written.
 */
export async function handOffArchive(
  name: string,
  bytes: Uint8Array,
  plan: string,
  { codecs, unseenOf }: Pick<HandOffInput, 'unseenOf'> & { codecs: GltfCodecs },
  onStep: (done: number) => void = () => undefined,
): Promise<HandedOff> {
  const { state, blobs, leftOut } = await readArchive(name, bytes);
  onStep(0);
  const { kit, seats } = state;
  const handOff = planNamed(name, kit.handOffs, plan);
  const pictures = new Map<string, KitPicture>();
  for (const address of [
    ...kit.sheets.flatMap(picturesOfSheet),
    ...kit.variants.flatMap(contentsOf.variants),
    ...contentsOf.handOffs(handOff),
  ]) {
    const content = blobs.get(address)!;
    pictures.set(address, { bytes: content, raster: decodePicture('A picture of this kit', content) });
  }
  for (const [key, picture] of paintedPictures(state, rastersOf(pictures))) pictures.set(key, picture);
  const { files, report } = await writeHandOff({
    state,
    handOff,
    pictures,
    codecs,
    unseenOf,
    onStep,
    itemOf: (model) =>
      Promise.resolve({
        model,
        mesh: checkMesh(unpack(blobs.get(model.mesh)!)),
        seats: seats[model.id]!,
        patches: patchesOfModel(state, model.id),
        files: model.source.files.map((f) => ({ name: f.name, bytes: blobs.get(f.content)! })),
      }),
  });
  return { files, report, leftOut };
}

function planNamed(file: string, plans: readonly HandOff[], wanted: string): HandOff {
  const found = wanted ? plans.find((p) => p.name === wanted || p.id === wanted) : plans[0];
  if (found) return found;
  const names = plans.map((p) => `“${p.name}”`).join(', ');
  throw new FileError(
    file,
    plans.length ? `it has no plan “${wanted}”; it has ${names}.` : 'it has no plan. Make one at Hand-off.',
    '/kit/handOffs',
  );
}
