import type { Document, Material, Texture } from '@gltf-transform/core';
import { EXTTextureWebP, KHRMaterialsUnlit } from '@gltf-transform/extensions';
import { linearFromByte } from '../../color/oklab';
import type { Sheet } from '../../kit/kit';
import { encodeSheet } from '../../sheet/encode';
import type { FaceGroup, FlatMaterial } from '../exportModel';
import type { KitPictures } from '../picture';
import type { MaterialFor } from './rebuildSource';

/**
 * One material for each sheet or flat slot, made when it is first asked for; see-through faces and those seen
 * from both sides have one of their own.
 */
export class GroupMaterials {
  private readonly made = new Map<string, Material>();
  private readonly textures = new Map<string, Texture>();
  private readonly sheets = new Map<Texture, Sheet>();
  constructor(
    private readonly document: Document,
    private readonly unlit: boolean,
    private readonly pictures: KitPictures,
  ) {}

  readonly of: MaterialFor = (group) => {
    const { flat, sheet, colors, seeThrough, doubleSided } = group;
    // Models with one number and name for one color share the material.
    const key = [
      flat ? `${flat.number} ${flat.name} ${flat.color.join()} ${flat.alpha}` : colors ? '' : sheet!.id,
      seeThrough,
      doubleSided,
    ].join(' ');
    let material = this.made.get(key);
    if (!material) {
      material = flat ? this.flat(flat) : colors ? this.document.createMaterial(named('vertex colors', group)) : this.textured(group);
      material.setMetallicFactor(0).setRoughnessFactor(1).setDoubleSided(doubleSided);
      // Opacity only counts where the material asks for it.
      if (seeThrough) material.setAlphaMode('BLEND');
      if (this.unlit) material.setExtension('KHR_materials_unlit', this.document.createExtension(KHRMaterialsUnlit).createUnlit());
      this.made.set(key, material);
    }
    return material;
  };

  all = (): Material[] => [...this.made.values()];

  readonly sheetOf = (texture: Texture): Sheet | undefined => this.sheets.get(texture);

  private flat({ number, name, color, alpha }: FlatMaterial): Material {
    const [r, g, b] = color.map(linearFromByte) as [number, number, number];
    return this.document.createMaterial(name).setBaseColorFactor([r, g, b, alpha]).setExtras({ slot: number });
  }

  private textured(group: FaceGroup): Material {
    const sheet = group.sheet!;
    const material = this.document.createMaterial(named(sheet.name, group)).setBaseColorTexture(this.texture(sheet));
    sampleClamped(material, sheet.filter);
    return material;
  }

  private texture(sheet: Sheet): Texture {
    let texture = this.textures.get(sheet.id);
    if (!texture) {
      const { bytes, mime } = encodeSheet(sheet, this.pictures);
      texture = this.document
        .createTexture(sheet.name)
        .setMimeType(mime)
        .setImage(bytes as Uint8Array<ArrayBuffer>);
      // WebP is no picture of plain glTF.
      if (mime === 'image/webp') this.document.createExtension(EXTTextureWebP).setRequired(true);
      this.textures.set(sheet.id, texture);
      this.sheets.set(texture, sheet);
    }
    return texture;
  }
}

function named(name: string, { seeThrough, doubleSided }: FaceGroup): string {
  return [name, ...(seeThrough ? ['see-through'] : []), ...(doubleSided ? ['both sides'] : [])].join(', ');
}

function sampleClamped(material: Material, filter: Sheet['filter']): void {
  const mode = filter === 'linear' ? 9729 : 9728;
  material.getBaseColorTextureInfo()!.setMagFilter(mode).setMinFilter(mode).setWrapS(33071).setWrapT(33071);
}
