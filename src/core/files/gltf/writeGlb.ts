import { WebIO, type Document, type Texture } from '@gltf-transform/core';
import { ALL_EXTENSIONS } from '@gltf-transform/extensions';
import { MeshoptEncoder } from 'meshoptimizer';
import type { Kit } from '../../kit/kit';
import type { ExportModel } from '../leaving/exportModel';
import type { NamedFile } from '../../ground/bytes/fileKinds';
import { extensionOf } from '../../ground/bytes/text';
import { buildGltf, type GltfOptions } from './buildGltf';
import type { SheetPicture } from './groupMaterials';

/** One GLB with its pictures inside; see `buildGltf`. Throws `FileError` where a source cannot be opened again. */
export async function writeGlb(kit: Kit, models: readonly ExportModel[], options: GltfOptions = {}): Promise<Uint8Array> {
  const { document } = await buildGltf(kit, models, options);
  return writeDocument(document);
}

/** A document as GLB. */
export const writeDocument = async (document: Document): Promise<Uint8Array> => (await writer(document)).writeBinary(document);

/** A picture of a glTF that leaves beside it. */
export interface PictureBeside {
  name: string;
  bytes: Uint8Array;
  extension: string;
  of?: SheetPicture;
}

/**
 * glTF as JSON, its binary part, and its pictures beside it. `addressOf`: how the glTF names a picture, from
 * where it lies itself; pictures of equal bytes should be given one. Throws `FileError` where a source cannot be
 * opened again.
 */
export async function writeGltf(
  kit: Kit,
  models: readonly ExportModel[],
  stem: string,
  addressOf: (picture: PictureBeside) => string,
  options: GltfOptions = {},
): Promise<{ files: NamedFile[]; document: Document }> {
  const { document, sheetOf } = await buildGltf(kit, models, options);
  const root = document.getRoot();
  for (const texture of root.listTextures()) texture.setURI(encodeURI(addressOf(besideOf(texture, sheetOf(texture)))));
  root.listBuffers().forEach((buffer, i) => buffer.setURI(`${stem}${i ? `-${i + 1}` : ''}.bin`));
  const { json, resources } = await (await writer(document)).writeJSON(document, { basename: stem });
  const parts = (json.buffers ?? []).flatMap(({ uri }): NamedFile[] => (uri ? [{ name: uri, bytes: resources[uri]! }] : []));
  const main = { name: `${stem}.gltf`, bytes: new TextEncoder().encode(`${JSON.stringify(json, null, 1)}\n`) };
  return { files: [main, ...parts], document };
}

function besideOf(texture: Texture, of: SheetPicture | undefined): PictureBeside {
  const bytes = texture.getImage() ?? new Uint8Array(0);
  const extension =
    texture
      .getMimeType()
      .replace(/^image\//, '')
      .replace('jpeg', 'jpg') ||
    extensionOf(texture.getURI()) ||
    'png';
  return { name: texture.getName() || texture.getURI(), bytes, extension, ...(of && { of }) };
}

async function writer(document: Document): Promise<WebIO> {
  const io = new WebIO().registerExtensions(ALL_EXTENSIONS);
  if (
    document
      .getRoot()
      .listExtensionsUsed()
      .some((e) => /meshopt/.test(e.extensionName))
  ) {
    await MeshoptEncoder.ready;
    io.registerDependencies({ 'meshopt.encoder': MeshoptEncoder });
  }
  return io;
}
