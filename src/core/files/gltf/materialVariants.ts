import type { Document, Material, Primitive } from '@gltf-transform/core';
import { KHRMaterialsVariants, type MappingList, type Variant } from '@gltf-transform/extensions';
import type { VariedGroup } from '../leaving/variantGroups';
import type { GroupMaterials } from './groupMaterials';

export const variantsExtension = 'KHR_materials_variants';

/**
 * Which material primitives have in each variant of the kit, as glTF tells it (KHR_materials_variants); readers that do
 * not know that show the default. Names are exactly the kit's. Primitives of one mapping share it.
 */
export class MaterialVariants {
  private readonly extension: KHRMaterialsVariants | null;
  private readonly byName = new Map<string, Variant>();
  private readonly lists = new Map<string, MappingList>();
  private readonly numbers = new Map<Material, number>();

  /** `names`: all variants that the file has, in their order, also where nothing differs in them. */
  constructor(
    document: Document,
    private readonly materials: GroupMaterials,
    names: readonly string[],
  ) {
    this.extension = names.length ? document.createExtension(KHRMaterialsVariants) : null;
    // A model that came with variants of its own keeps them; those of one name are one.
    for (const variant of this.extension?.listVariants() ?? []) this.byName.set(variant.getName(), variant);
    for (const name of names) if (!this.byName.has(name)) this.byName.set(name, this.extension!.createVariant(name));
  }

  /** `firstSet`: the number of the UV set that the first of the group's own further sets is written as. */
  map(primitive: Primitive, { inVariants }: VariedGroup, firstSet: number): void {
    const pairs = inVariants.flatMap(({ name, group, set }) => {
      const material = this.materials.of(group, { variant: name, texCoord: set < 0 ? 0 : firstSet + set });
      return material === primitive.getMaterial() ? [] : [{ name, material }];
    });
    if (!pairs.length || !this.extension) return;
    const key = pairs.map(({ name, material }) => `${this.numberOf(material)} ${name}`).join('\n');
    let list = this.lists.get(key);
    if (!list) {
      list = this.extension.createMappingList();
      for (const material of new Set(pairs.map((p) => p.material))) {
        const mapping = this.extension.createMapping().setMaterial(material);
        for (const p of pairs) if (p.material === material) mapping.addVariant(this.byName.get(p.name)!);
        list.addMapping(mapping);
      }
      this.lists.set(key, list);
    }
    primitive.setExtension(variantsExtension, list);
  }

  private numberOf(material: Material): number {
    if (!this.numbers.has(material)) this.numbers.set(material, this.numbers.size);
    return this.numbers.get(material)!;
  }
}

/** Equal for primitives that have equal materials in all variants; `numberOf` tells materials apart. */
export function mappingKey(primitive: Primitive, numberOf: (material: Material | null) => number): string {
  const list = primitive.getExtension<MappingList>(variantsExtension);
  if (!list) return '';
  return list
    .listMappings()
    .flatMap((m) => m.listVariants().map((v) => `${v.getName()} ${numberOf(m.getMaterial())}`))
    .sort()
    .join('\n');
}
