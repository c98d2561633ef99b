import type { Document } from '@gltf-transform/core';
import type { PolyMesh } from '../../shapes/mesh/polyMesh';
import { safeName } from '../../ground/bytes/fileNames';
import type { NamedFile } from '../../ground/bytes/fileKinds';
import { probePicture } from '../../ground/pictures/picture';
import { stemOf } from '../../ground/bytes/text';

/**
 * The pictures that color the slots of a mesh that came as glTF, by slot, as files of their own. Those in
 * formats that other programs do not read are left out.
 */
export function slotPictures(document: Document, mesh: PolyMesh): Map<number, NamedFile> {
  const materials = document.getRoot().listMaterials();
  const out = new Map<number, NamedFile>();
  mesh.slots.forEach(({ picture, material }, slot) => {
    const image = material === undefined ? null : materials[material]?.getBaseColorTexture()?.getImage();
    const kind = image && probePicture(image)?.kind;
    if (picture && image && kind)
      out.set(slot, { name: `${safeName(stemOf(picture) || picture, 'picture')}.${kind === 'jpeg' ? 'jpg' : kind}`, bytes: image });
  });
  return out;
}
