import type { Document, Root } from '@gltf-transform/core';
import type { Kit } from '../../kit/kit';
import { hasTexturedFaces, texturedCells } from '../../faces/seat/colorsOfFaces';
import { finishOf, isUsualFinish } from '../../sheet/finish';
import { count } from '../../ground/words';
import { faceCount } from '../../shapes/mesh/polyMesh';
import { isDoubleSided } from '../../kit/sides';
import type { ExportModel } from '../leaving/exportModel';
import { variantsExtension } from '../gltf/materialVariants';
import { leavingAsDefault, leavingVariants } from '../leaving/variantGroups';
import { leaveDefaults, type LeaveOptions } from '../../kit/leaveOptions';

export interface LossOptions extends Partial<LeaveOptions> {
  format: 'glb' | 'gltf' | 'obj' | 'ply' | 'stl';
  /** Other models leave in the same file. */
  isWholeKit?: boolean;
  /** The model's glTF, opened, and the extensions that it names and we do not know. */
  source?: { document: Document; unknownExtensions: readonly string[] };
}

/** What of a model does not leave with it, one sentence each; nothing where all of it does. */
export function lossesOf(kit: Kit, item: ExportModel, { format, isWholeKit, source, ...options }: LossOptions): string[] {
  const { as, meshes, finish, unlit, variants } = { ...leaveDefaults, ...options };
  const { mesh, seats, model } = item;
  const out: string[] = [];
  const colored = new Set<number>();
  const bare = new Set<number>();
  for (let f = 0; f < faceCount(mesh); f++) (seats.cell[f] ? colored : bare).add(mesh.faceSlot[f]!);
  const root = source?.document.getRoot();
  const materials = root?.listMaterials() ?? [];

  if (source?.unknownExtensions.length) out.push(`Extensions that are not known here: ${source.unknownExtensions.join(', ')}.`);
  const maps = [...colored].filter((slot) => {
    const material = materials[mesh.slots[slot]!.material ?? -1];
    return (
      material &&
      (material.getNormalTexture() ??
        material.getOcclusionTexture() ??
        material.getMetallicRoughnessTexture() ??
        material.getEmissiveTexture())
    );
  });
  if (maps.length)
    out.push(`Normal, roughness and other maps of faces that were recolored (${names(maps.map((s) => mesh.slots[s]!.name))}).`);
  if (colored.size && mesh.uvSets.length > 1) out.push('Further UV sets of faces that were recolored.');
  if (colored.size && mesh.cornerColors) out.push('Vertex colors of faces that were recolored.');
  if (root && isWholeKit && root.listScenes().length > 1 && root.getDefaultScene())
    out.push(`What only its other scenes show (${count(root.listScenes().length - 1, 'scene')}).`);
  const groups = mesh.groups && mesh.groups.length > 1 ? mesh.groups.length : 0;

  if (as === 'colors' && format !== 'stl' && sitsOnTexture(kit, item))
    out.push('What gradients and art show between corners: colors of vertices are only at corners.');

  const finishes = new Set(seats.cell);
  const dull = kit.sheets.flatMap((s) => s.cells).filter((c) => finishes.has(c.id) && !isUsualFinish(finishOf(c))).length;
  const isGltf = format === 'glb' || format === 'gltf';
  if (dull && !(isGltf && as !== 'colors' && finish && !unlit)) out.push(`How rough, metallic or glowing ${count(dull, 'color')} are.`);

  if (variants === 'inside' && kit.variants.length && (!isGltf || as === 'colors'))
    out.push(
      `Its variants: ${as === 'colors' && isGltf ? 'colors of vertices are' : `${format.toUpperCase()} has`} those of the default coloring alone.`,
    );

  if (isGltf) {
    const { bare: uncolored, tinted, fifth } = leavingAsDefault(kit, item, { ...options, as, variants });
    const look = (of: readonly string[], why: string) =>
      of.length && out.push(`The look in ${names(of)} of faces ${why}: the default’s stands there.`);
    look(uncolored, 'that are uncolored only there');
    look(tinted, 'that are colored only there and have vertex colors');
    look(fifth, 'whose UVs there would be a fifth set');
    if (root && hasOwnVariants(root, kit, item)) out.push('The file’s own variants on faces that were colored.');
    if (!source && mesh.objects.length > 1 && meshes === 'joined')
      out.push(`The division into ${mesh.objects.length} objects, since meshes are joined.`);
    if (groups) out.push(`The names of ${groups} groups: GLB has none.`);
    const pictures = source ? [] : [...bare].flatMap((s) => mesh.slots[s]!.picture ?? []).filter((p) => !/\.(png|jpe?g)$/i.test(p));
    if (pictures.length) out.push(`Pictures of uncolored faces that are neither PNG nor JPEG (${names(pictures)}).`);
    return out;
  }

  if (root) {
    const parts = [
      root.listSkins().length ? 'skins' : '',
      root.listAnimations().length ? 'animations' : '',
      root.listMeshes().some((m) => m.listPrimitives().some((p) => p.listTargets().length)) ? 'morph targets' : '',
    ].filter(Boolean);
    out.push(`The node tree${parts.length ? `, ${parts.join(', ')}` : ''}: ${format.toUpperCase()} has none.`);
  }
  if (format === 'stl') return [...out, 'Colors, materials, UVs and names: STL has none.'];
  if (format === 'ply') {
    out.push('Materials, textures, UVs and names: PLY has colors of vertices alone.');
    if (as !== 'colors' && sitsOnTexture(kit, item)) out.push('What gradients and art show between corners.');
    return out;
  }
  if (mesh.source?.triangles?.some((t, i) => i % 2 === 1 && t >= 0)) out.push('The file’s own triangles: mended quads leave as quads.');
  if (bare.size && mesh.uvSets.length > 1) out.push('Further UV sets of uncolored faces: OBJ has one.');
  if (groups) out.push(`The names of ${groups} groups.`);
  if ([...colored, ...bare].some((slot) => isDoubleSided(model, mesh, slot)))
    out.push('That faces are seen from both sides: OBJ cannot say it.');
  if (as === 'texture' && kit.sheets.some((s) => s.filter === 'nearest') && colored.size)
    out.push('That the texture is sampled to the nearest texel: OBJ cannot say it.');
  const hidden = [...bare].filter((s) => materials[mesh.slots[s]!.material ?? -1]?.getBaseColorTexture()?.getMimeType() === 'image/ktx2');
  if (hidden.length) out.push(`Pictures in KTX2 (${names(hidden.map((s) => mesh.slots[s]!.name))}).`);
  return out;
}

/** Whether what came with variants of its own has been colored, in the default or in a variant. */
function hasOwnVariants(root: Root, kit: Kit, item: ExportModel): boolean {
  const { facePrimitive, primitives } = item.mesh.source ?? {};
  if (!facePrimitive || !primitives) return false;
  const nodes = root.listNodes();
  const isVaried = primitives.map(({ node, primitive }) =>
    Boolean(nodes[node]?.getMesh()?.listPrimitives()[primitive]?.getExtension(variantsExtension)),
  );
  if (!isVaried.includes(true)) return false;
  const looks = [item.seats, ...leavingVariants(kit, item).map((v) => v.seats)];
  return facePrimitive.some((p, f) => isVaried[p] && looks.some((seats) => seats.cell[f]));
}

const sitsOnTexture = (kit: Kit, { seats }: ExportModel): boolean => hasTexturedFaces(texturedCells(kit), seats);

const names = (list: readonly string[]) => list.slice(0, 5).join(', ') + (list.length > 5 ? ` and ${list.length - 5} more` : '');
