import {
  Color,
  DataTexture,
  InstancedMesh,
  Matrix3,
  Matrix4,
  Mesh,
  NearestFilter,
  SRGBColorSpace,
  Vector3,
  type MeshStandardMaterial,
  type Object3D,
} from 'three';
import { GLTFLoader, type GLTFParser } from 'three/addons/loaders/GLTFLoader.js';
import { decodePng } from '@/core/ground/pictures/png';

export interface Seen {
  materials: { name: string; magFilter: string; isUnlit: boolean }[];
  /**
   * Each triangle with the sRGB color of the texel at the middle of its UVs, or of its vertices (`null` without
   * both), its middle in the world, and the name and own color (sRGB) of its material.
   */
  triangles: { color: number[] | null; middle: [number, number, number]; material: string; base: number[] }[];
}

interface Mapped {
  extensions?: { KHR_materials_variants?: { mappings: { material: number; variants: number[] }[] } };
}

/** Names of the variants that a GLB says it has. */
export function variantsIn(glb: Uint8Array): string[] {
  const json = JSON.parse(
    new TextDecoder().decode(glb.subarray(20, 20 + new DataView(glb.buffer, glb.byteOffset).getUint32(12, true))),
  ) as {
    extensions?: { KHR_materials_variants?: { variants: { name: string }[] } };
  };
  return json.extensions?.KHR_materials_variants?.variants.map((v) => v.name) ?? [];
}

/** Reads a GLB with three's loader, with the materials that it tells for a variant. */
async function loadWithThree(glb: Uint8Array, variant?: string): Promise<Object3D> {
  const loader = new GLTFLoader();
  // Node has no image decoder; the picture's bytes are decoded here instead.
  loader.register((parser: GLTFParser) => ({
    name: 'pictures without a browser',
    loadTexture: async (index: number) => {
      const { textures, images } = parser.json as { textures: { source: number; sampler?: number }[]; images: { bufferView: number }[] };
      const bytes = (await parser.getDependency('bufferView', images[textures[index]!.source]!.bufferView)) as ArrayBuffer;
      const { width, height, data } = decodePng(new Uint8Array(bytes));
      const texture = new DataTexture(data as Uint8Array<ArrayBuffer>, width, height);
      texture.colorSpace = SRGBColorSpace;
      const sampler = (parser.json as { samplers?: { magFilter?: number }[] }).samplers?.[textures[index]!.sampler ?? 0];
      if (sampler?.magFilter === 9728) texture.magFilter = NearestFilter;
      else texture.magFilter = 1006;
      return texture;
    },
  }));
  const { scene, parser } = await loader.parseAsync(glb.slice().buffer, '');
  const index = variant === undefined ? -1 : variantsIn(glb).indexOf(variant);
  if (variant !== undefined && index < 0) throw new Error(`The file has no variant “${variant}”.`);
  const meshes: Mesh[] = [];
  scene.traverse((object) => object instanceof Mesh && meshes.push(object as Mesh));
  for (const mesh of index < 0 ? [] : meshes) {
    const { meshes: m, primitives: p } = parser.associations.get(mesh) as { meshes: number; primitives?: number };
    const primitive = (parser.json as { meshes: { primitives: Mapped[] }[] }).meshes[m]!.primitives[p ?? 0]!;
    const mapping = primitive.extensions?.KHR_materials_variants?.mappings.find((one) => one.variants.includes(index));
    if (mapping) mesh.material = (await parser.getDependency('material', mapping.material)) as MeshStandardMaterial;
  }
  scene.updateMatrixWorld(true);
  return scene;
}

/**
 * Each triangle that three's loader shows: its corners' places, in the order in which it is seen from the
 * front, from the smallest on, sorted; and how many have normals that look to their front. `morph`: the
 * weight of the first target. `pose`: nodes that are turned about Z from how they rest, by name, in radians.
 */
export async function seenTriangles(
  glb: Uint8Array,
  morph = 0,
  pose: Readonly<Record<string, number>> = {},
): Promise<{ triangles: string[]; lit: number }> {
  const scene = await loadWithThree(glb);
  for (const [name, angle] of Object.entries(pose)) scene.getObjectByName(name)!.rotateZ(angle);
  scene.updateMatrixWorld(true);
  const triangles: string[] = [];
  let lit = 0;
  scene.traverse((object) => {
    if (!(object instanceof Mesh)) return;
    const mesh = object as Mesh;
    if (mesh.morphTargetInfluences) mesh.morphTargetInfluences[0] = morph;
    const { index } = mesh.geometry;
    const { position, normal } = mesh.geometry.attributes;
    const isSkinned = (mesh as { isSkinnedMesh?: boolean }).isSkinnedMesh === true;
    const turn = !isSkinned && mesh.matrixWorld.determinant() < 0;
    const directions = new Matrix3().getNormalMatrix(mesh.matrixWorld);
    for (let t = 0; t < (index?.count ?? position!.count); t += 3) {
      const ids = (turn ? [0, 2, 1] : [0, 1, 2]).map((k) => (index ? index.getX(t + k) : t + k));
      const points = ids.map((i) => mesh.getVertexPosition(i, new Vector3()).applyMatrix4(mesh.matrixWorld));
      const [a, b, c] = points as [Vector3, Vector3, Vector3];
      const front = b.clone().sub(a).cross(c.clone().sub(a));
      if (normal && !isSkinned && front.dot(new Vector3().fromBufferAttribute(normal, ids[0]!).applyMatrix3(directions)) > 0) lit++;
      const words = points.map((p) =>
        p
          .toArray()
          .map((v) => (Math.round(v * 1e4) / 1e4 + 0).toString())
          .join(),
      );
      const first = words.indexOf([...words].sort()[0]!);
      triangles.push([0, 1, 2].map((k) => words[(first + k) % 3]).join(' | '));
    }
  });
  return { triangles: triangles.sort(), lit };
}

/** Reads a GLB with three's loader and looks up what each triangle shows, in the default or in a variant. */
export async function sampleWithThree(glb: Uint8Array, variant?: string): Promise<Seen> {
  const scene = await loadWithThree(glb, variant);
  const seen: Seen = { materials: [], triangles: [] };
  const known = new Set<unknown>();
  scene.traverse((object) => {
    if (!(object instanceof Mesh)) return;
    const material = object.material as MeshStandardMaterial;
    if (!known.has(material)) {
      known.add(material);
      seen.materials.push({
        name: material.name,
        magFilter: material.map?.magFilter === NearestFilter ? 'nearest' : 'linear',
        isUnlit: material.type === 'MeshBasicMaterial',
      });
    }
    const base = bytesOf(material.color.clone());
    const { index } = object.geometry;
    const { position, color: tint } = object.geometry.attributes;
    const channel = material.map?.channel ?? 0;
    const uv = object.geometry.attributes[channel ? `uv${channel}` : 'uv'];
    for (let t = 0; t < index!.count; t += 3) {
      const ids = [0, 1, 2].map((k) => index!.getX(t + k));
      const mean = (get: (i: number) => number) => ids.reduce((sum, i) => sum + get(i), 0) / 3;
      const middles = placesOf(object).map((place) =>
        new Vector3(
          mean((i) => position!.getX(i)),
          mean((i) => position!.getY(i)),
          mean((i) => position!.getZ(i)),
        ).applyMatrix4(place),
      );
      let color: number[] | null = null;
      const image = material.map?.image as { width: number; height: number; data: Uint8Array } | undefined;
      if (image && uv) {
        const x = Math.floor(mean((i) => uv.getX(i)) * image.width);
        const y = Math.floor(mean((i) => uv.getY(i)) * image.height);
        color = [...image.data.slice((y * image.width + x) * 4, (y * image.width + x) * 4 + 3)];
      }
      if (!image && tint) {
        color = bytesOf(new Color(...[0, 1, 2].map((k) => mean((i) => tint.getComponent(i, k)))));
      }
      for (const middle of middles) seen.triangles.push({ color, middle: middle.toArray(), material: material.name, base });
    }
  });
  return seen;
}

/** Where a mesh stands in the world; instances in several places. */
function placesOf(object: Object3D): Matrix4[] {
  if (!(object instanceof InstancedMesh)) return [object.matrixWorld];
  return Array.from({ length: object.count }, (_, i) => {
    const own = new Matrix4();
    object.getMatrixAt(i, own);
    return own.premultiply(object.matrixWorld);
  });
}

/** A linear color in sRGB. */
const bytesOf = (linear: Color): number[] =>
  linear
    .convertLinearToSRGB()
    .toArray()
    .map((v) => Math.round(v * 255));
