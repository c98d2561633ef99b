import { decodePicture } from '../../ground/pictures/decodePicture';
import type { NamedFile } from '../../ground/bytes/fileKinds';
import { openGltf, type GltfCodecs } from '../gltf/openGltf';
import { probePicture } from '../../ground/pictures/picture';
import type { Raster } from '../../ground/pictures/raster';

/**
 * Pictures that a model's files hold, by lower-case name as its slots name them; those that cannot be decoded are
 * passed over, with a word in the console. `start`: makes the decoder ready.
 */
export async function readPictures(
  files: readonly NamedFile[],
  codecs: GltfCodecs,
  start: () => Promise<void> | void,
): Promise<Map<string, Raster>> {
  const out = new Map<string, Raster>();
  for (const { name, bytes } of files) {
    try {
      if (/\.(png|jpe?g|webp)$/i.test(name)) {
        await start();
        out.set(name.toLowerCase(), decodePicture(name, bytes));
      } else if (/\.(gltf|glb)$/i.test(name)) {
        const { document } = await openGltf(name, bytes, new Map(files.map((f) => [f.name, f.bytes])), codecs);
        for (const [i, material] of document.getRoot().listMaterials().entries()) {
          const texture = material.getBaseColorTexture();
          const image = texture?.getImage();
          if (!texture || !image || !probePicture(image)) continue;
          await start();
          const raster = decodePicture(texture.getName() || name, image);
          out.set((texture.getName() || texture.getURI() || `picture ${i + 1}`).toLowerCase(), raster);
        }
      }
    } catch (error) {
      console.warn(`The picture “${name}” cannot be shown.`, error);
    }
  }
  return out;
}
