import type { Document, Material, Texture, TextureInfo } from '@gltf-transform/core';
import { EXTTextureWebP, KHRMaterialsUnlit } from '@gltf-transform/extensions';
import { rgbFromHex } from '../../ground/color/hex';
import { linearFromByte } from '../../ground/color/oklab';
import type { Finish, Sheet } from '../../kit/kit';
import { encodeSheet, type EncodedSheet } from '../../sheet/encode';
import { finishOfSheet, usualFinish, type FinishLayer } from '../../sheet/finish';
import type { Raster } from '../../ground/pictures/raster';
import { looksOfSheet } from '../../kit/colorings/shown';
import type { FaceGroup, FlatMaterial } from '../leaving/exportModel';
import type { LeaveOptions } from '../../kit/leaveOptions';
import type { KitPictures } from '../../ground/pictures/picture';
import { encodePng } from '../../ground/pictures/png';

/** A sheet whose colors a texture holds, or what else of it. */
export interface SheetPicture {
  sheet: Sheet;
  layer?: FinishLayer;
  /** The variant whose colors they are. */
  variant?: string;
}

/**
 * One material for each sheet or flat slot, made when it is first asked for; see-through faces and those seen
 * from both sides have one of their own.
 */
export class GroupMaterials {
  private readonly made = new Map<string, Material>();
  private readonly textures = new Map<string, Texture>();
  private readonly sheets = new Map<Texture, SheetPicture>();
  constructor(
    private readonly document: Document,
    private readonly options: Pick<LeaveOptions, 'unlit' | 'finish'>,
    private readonly pictures: KitPictures,
    /** The variant after which a sheet of other looks is called. */
    private readonly variants: ReadonlyMap<string, string> = new Map(),
  ) {}

  /** `variant`: the one in which the group leaves so, which names what has the default's colors; `texCoord`: the UV set that it reads. */
  readonly of = (group: FaceGroup, { variant, texCoord = 0 }: { variant?: string; texCoord?: number } = {}): Material => {
    const { flat, sheet, colors, seeThrough, isCut, doubleSided } = group;
    // Models with one number and name for one color share the material.
    const key = [flat ? JSON.stringify(flat) : colors ? '' : looksOfSheet(sheet!), seeThrough, isCut, doubleSided, texCoord].join(' ');
    let material = this.made.get(key);
    if (!material) {
      material = flat
        ? this.flat(flat)
        : colors
          ? this.document.createMaterial(named('vertex colors', group))
          : this.textured(group, texCoord ? variant : undefined);
      material.setDoubleSided(doubleSided);
      if (flat) finishFlat(material, this.hasFinish ? flat.finish : usualFinish);
      else if (colors || !this.hasFinish) finishFlat(material, usualFinish);
      else this.finishTextured(material, sheet!);
      for (const info of [
        material.getBaseColorTextureInfo(),
        material.getMetallicRoughnessTextureInfo(),
        material.getEmissiveTextureInfo(),
      ])
        info?.setTexCoord(texCoord);
      // Opacity only counts where the material asks for it.
      if (isCut) material.setAlphaMode('MASK').setAlphaCutoff(0.5);
      else if (seeThrough) material.setAlphaMode('BLEND');
      if (this.options.unlit) material.setExtension('KHR_materials_unlit', this.document.createExtension(KHRMaterialsUnlit).createUnlit());
      this.made.set(key, material);
    }
    return material;
  };

  all = (): Material[] => [...this.made.values()];

  readonly sheetOf = (texture: Texture): SheetPicture | undefined => this.sheets.get(texture);

  private flat({ number, name, color, alpha }: FlatMaterial): Material {
    const [r, g, b] = color.map(linearFromByte) as [number, number, number];
    return this.document.createMaterial(name).setBaseColorFactor([r, g, b, alpha]).setExtras({ slot: number });
  }

  private textured(group: FaceGroup, variant?: string): Material {
    const sheet = group.sheet!;
    const own = this.variants.get(looksOfSheet(sheet));
    const material = this.document.createMaterial(named(sheet.name, group, variant ?? own)).setBaseColorTexture(this.texture(sheet));
    sampled(material.getBaseColorTextureInfo()!, sheet.filter);
    return material;
  }

  /** What light does is nothing to a material that it does not touch. */
  private get hasFinish(): boolean {
    return this.options.finish && !this.options.unlit;
  }

  private finishTextured(material: Material, sheet: Sheet): void {
    const { roughness, metalness, surface, glow } = finishOfSheet(sheet);
    material.setRoughnessFactor(roughness).setMetallicFactor(metalness);
    if (surface) {
      material.setMetallicRoughnessTexture(this.layer(sheet, 'surface', surface));
      sampled(material.getMetallicRoughnessTextureInfo()!, sheet.filter);
    }
    if (glow) {
      material.setEmissiveTexture(this.layer(sheet, 'glow', glow)).setEmissiveFactor([1, 1, 1]);
      sampled(material.getEmissiveTextureInfo()!, sheet.filter);
    }
  }

  private texture(sheet: Sheet): Texture {
    return this.pictured(sheet, undefined, () => encodeSheet(sheet, this.pictures));
  }

  private layer(sheet: Sheet, layer: FinishLayer, raster: Raster): Texture {
    return this.pictured(sheet, layer, () => ({ bytes: encodePng(raster), mime: 'image/png' }));
  }

  /** A picture of a sheet, made when it is first asked for. */
  private pictured(sheet: Sheet, layer: FinishLayer | undefined, encode: () => EncodedSheet): Texture {
    // Finish is common to all variants; colors are what they show.
    const key = layer ? `${layer} ${sheet.id}` : looksOfSheet(sheet);
    const variant = layer ? undefined : this.variants.get(looksOfSheet(sheet));
    let texture = this.textures.get(key);
    if (!texture) {
      const { bytes, mime } = encode();
      texture = this.document
        .createTexture(layer ? `${sheet.name} ${layer}` : [sheet.name, variant].filter(Boolean).join(' '))
        .setMimeType(mime)
        .setImage(bytes as Uint8Array<ArrayBuffer>);
      // WebP is no picture of plain glTF.
      if (mime === 'image/webp') this.document.createExtension(EXTTextureWebP).setRequired(true);
      this.textures.set(key, texture);
      this.sheets.set(texture, { sheet, ...(layer && { layer }), ...(variant && { variant }) });
    }
    return texture;
  }
}

function named(name: string, { seeThrough, isCut, doubleSided }: FaceGroup, variant?: string): string {
  return [
    name,
    ...(variant ? [variant] : []),
    ...(isCut ? ['cut out'] : seeThrough ? ['see-through'] : []),
    ...(doubleSided ? ['both sides'] : []),
  ].join(', ');
}

function finishFlat(material: Material, { roughness, metalness, glow }: Finish): void {
  material.setRoughnessFactor(roughness).setMetallicFactor(metalness);
  if (glow) material.setEmissiveFactor(rgbFromHex(glow).map(linearFromByte) as [number, number, number]);
}

function sampled(info: TextureInfo, filter: Sheet['filter']): void {
  const mode = filter === 'linear' ? 9729 : 9728;
  info.setMagFilter(mode).setMinFilter(mode).setWrapS(33071).setWrapT(33071);
}
