import type { NamedFile } from '../../ground/bytes/fileKinds';
import { isGltfModel, type ExportModel } from '../leaving/exportModel';
import { openKept, type GltfCodecs } from '../gltf/openGltf';
import { slotPictures } from '../gltf/slotPictures';

/**
 * The picture that colors a slot of a model: out of its glTF, else the file of that name beside it. Throws
 * `FileError` where a source cannot be opened again.
 */
export async function slotPicturesOf(
  items: readonly ExportModel[],
  codecs?: GltfCodecs,
): Promise<(item: ExportModel, slot: number) => NamedFile | undefined> {
  const inside = new Map<string, Map<number, NamedFile>>();
  for (const item of items)
    if (isGltfModel(item)) inside.set(item.model.id, slotPictures((await openKept(item.files, codecs)).document, item.mesh));
  return (item, slot) => {
    const wanted = item.mesh.slots[slot]!.picture?.toLowerCase();
    return inside.get(item.model.id)?.get(slot) ?? item.files.find((f) => f.name.toLowerCase() === wanted);
  };
}
