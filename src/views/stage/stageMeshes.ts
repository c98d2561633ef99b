import {
  BoxGeometry,
  BufferAttribute,
  BufferGeometry,
  GLSL3,
  InstancedMesh,
  Matrix4,
  Mesh,
  Quaternion,
  ShaderMaterial,
  Vector3,
  type Object3D,
} from 'three';
import type { KitState, Placement } from '@/core/kit/kit';
import { colorsOfCorners } from '@/core/seat/colorsOfCorners';
import type { Standing } from '@/core/stage/placements';
import type { Pictures } from '@/core/sheet/raster';
import { stateOfVariant } from '@/core/variants/shown';
import { modelGeometry } from '@/views/viewport/modelGeometry';
import type { LoadedMesh } from '@/workers/residents';

const vertexShader = /* glsl */ `
in vec4 tint;
out vec3 vColor;
out vec3 vNormal;
void main() {
  mat4 place = modelMatrix;
  #ifdef USE_INSTANCING
    place = modelMatrix * instanceMatrix;
  #endif
  vColor = tint.rgb;
  /* Placements turn and scale alike in all directions. */
  vNormal = mat3(place) * normal;
  gl_Position = projectionMatrix * viewMatrix * place * vec4(position, 1.0);
}`;

const fragmentShader = /* glsl */ `
uniform float opacity;
in vec3 vColor;
in vec3 vNormal;
out vec4 outColor;
vec3 toLinear(vec3 c) { return mix(c / 12.92, pow((c + 0.055) / 1.055, vec3(2.4)), step(0.04045, c)); }
vec3 toScreen(vec3 c) { return mix(c * 12.92, 1.055 * pow(c, vec3(1.0 / 2.4)) - 0.055, step(0.0031308, c)); }
void main() {
  vec3 normal = normalize(vNormal);
  if (!gl_FrontFacing) normal = -normal;
  float key = max(dot(normal, normalize(vec3(0.5, 0.8, 0.6))), 0.0);
  outColor = vec4(toScreen(min(toLinear(vColor) * (0.46 + 0.12 * normal.y + 0.66 * key), vec3(1.0))), opacity);
}`;

export const stageMaterial = (opacity = 1): ShaderMaterial =>
  new ShaderMaterial({
    glslVersion: GLSL3,
    vertexShader,
    fragmentShader,
    side: 2,
    transparent: opacity < 1,
    uniforms: { opacity: { value: opacity } },
  });

/** Geometries by model and coloring: places and normals are common to all colorings of a model. */
export class StageGeometries {
  private readonly bases = new Map<string, BufferGeometry>();
  private readonly known = new Map<string, { cells: unknown; sheets: unknown; geometry: BufferGeometry }>();

  of(base: KitState, model: string, variant: string | undefined, loaded: LoadedMesh, pictures: Pictures): BufferGeometry {
    const { kit, seats } = stateOfVariant(base, variant ?? null);
    const key = `${loaded.id} ${model} ${variant ?? ''}`;
    const own = seats[model]!;
    const known = this.known.get(key);
    if (known?.cells === own && known.sheets === kit.sheets) return known.geometry;
    let shape = this.bases.get(loaded.id);
    if (!shape) this.bases.set(loaded.id, (shape = modelGeometry(loaded)));
    const geometry = known?.geometry ?? shared(shape);
    geometry.setAttribute('tint', new BufferAttribute(colorsOfCorners(kit, loaded.mesh, own, pictures), 4, true));
    this.known.set(key, { cells: own, sheets: kit.sheets, geometry });
    return geometry;
  }

  dispose(): void {
    for (const shape of this.bases.values()) shape.dispose();
    for (const { geometry } of this.known.values()) geometry.dispose();
    this.bases.clear();
    this.known.clear();
  }
}

function shared(shape: BufferGeometry): BufferGeometry {
  const geometry = new BufferGeometry();
  for (const name of ['position', 'normal']) geometry.setAttribute(name, shape.getAttribute(name));
  geometry.setIndex(shape.getIndex());
  geometry.boundingSphere = shape.boundingSphere;
  return geometry;
}

const up = new Vector3(0, 1, 0);
export const matrixOf = ({ at, turn, scale }: Pick<Standing, 'at' | 'turn' | 'scale'>): Matrix4 =>
  new Matrix4().compose(
    new Vector3(...at),
    new Quaternion().setFromAxisAngle(up, (turn * Math.PI) / 180),
    new Vector3(scale, scale, scale),
  );

/** A box in place of a model that is small on the screen, each side of the mean color of the faces that look there. */
function standIn(geometry: BufferGeometry): BufferGeometry {
  geometry.computeBoundingBox();
  const { min, max } = geometry.boundingBox!;
  const [normal, tint] = [geometry.getAttribute('normal'), geometry.getAttribute('tint')];
  const box = new BoxGeometry(max.x - min.x, max.y - min.y, max.z - min.z);
  box.translate((min.x + max.x) / 2, (min.y + max.y) / 2, (min.z + max.z) / 2);
  // Its sides are +X, -X, +Y, -Y, +Z, -Z, four vertices each.
  const sums = Array.from({ length: 6 }, () => [0, 0, 0, 1e-6]);
  for (let i = 0; i < normal.count; i++)
    for (let axis = 0; axis < 3; axis++) {
      const along = normal.getComponent(i, axis);
      const sum = sums[axis * 2 + (along < 0 ? 1 : 0)]!;
      for (let k = 0; k < 3; k++) sum[k]! += tint.getComponent(i, k) * Math.abs(along);
      sum[3]! += Math.abs(along);
    }
  const colors = new Float32Array(24 * 4).fill(1);
  sums.forEach((sum, side) => {
    for (let v = side * 4; v < side * 4 + 4; v++) for (let k = 0; k < 3; k++) colors[v * 4 + k] = sum[k]! / sum[3]!;
  });
  box.setAttribute('tint', new BufferAttribute(colors, 4));
  return box;
}

/** Triangles that are drawn as they are: at rest all, while the camera moves those of what is largest on the screen. */
export const detailWithin = { resting: Infinity, moving: 40_000 };
/** Pixels of a ball's radius below which a box stands in for what is in it, in any case. */
const smallest = 2.5;

/** Draws what is largest on the screen as it is, and boxes for the rest. `pixels`: of one metre at a distance of one metre. */
export function chooseDetail(objects: readonly Object3D[], eye: Vector3, pixels: number, triangles: number): void {
  const [center, scale] = [new Vector3(), new Vector3()];
  const matrix = new Matrix4();
  const all: { group: InstancedMesh; placement: Placement; size: number; cost: number }[] = [];
  for (const group of objects) {
    if (!(group instanceof InstancedMesh) || !group.userData.all) continue;
    const { boundingSphere, index } = group.geometry as BufferGeometry;
    for (const placement of group.userData.all as readonly Placement[]) {
      matrix.copy(matrixOf(placement));
      center.copy(boundingSphere!.center).applyMatrix4(matrix);
      const radius = boundingSphere!.radius * scale.setFromMatrixScale(matrix).x;
      const size = (radius * pixels) / Math.max(1e-3, center.distanceTo(eye));
      all.push({ group, placement, size, cost: (index?.count ?? 0) / 3 });
    }
  }
  if (triangles < Infinity) all.sort((a, b) => b.size - a.size);
  const shown = new Map<InstancedMesh, Placement[]>();
  let left = triangles;
  for (const { group, placement, size, cost } of all) {
    const isWhole = size >= smallest && left >= cost;
    if (isWhole) left -= cost;
    const mesh = isWhole ? group : (group.userData.far as InstancedMesh);
    const list = shown.get(mesh);
    if (list) list.push(placement);
    else shown.set(mesh, [placement]);
  }
  for (const mesh of objects) {
    if (!(mesh instanceof InstancedMesh)) continue;
    const list = shown.get(mesh) ?? [];
    list.forEach((p, i) => mesh.setMatrixAt(i, matrixOf(p)));
    mesh.count = list.length;
    mesh.instanceMatrix.needsUpdate = true;
    // Found anew where a ray is cast.
    mesh.boundingSphere = null;
    mesh.userData.placements = list;
  }
}

/** What of an object in the scene stands where: its placements, in the order of its instances. */
export const placementsIn = (object: Object3D): readonly Placement[] => object.userData.placements as readonly Placement[];

/** The objects that show placements: one for each model and coloring, or one for each placement. */
export function stageObjects(
  placements: readonly Placement[],
  geometryOf: (placement: Placement) => BufferGeometry | null,
  material: ShaderMaterial,
  isInstanced: boolean,
): Object3D[] {
  const groups = new Map<BufferGeometry, Placement[]>();
  for (const placement of placements) {
    const geometry = geometryOf(placement);
    if (!geometry) continue;
    const group = groups.get(geometry);
    if (group) group.push(placement);
    else groups.set(geometry, [placement]);
  }
  return [...groups].flatMap(([geometry, group]): Object3D[] => {
    if (isInstanced) {
      const mesh = new InstancedMesh(geometry, material, group.length);
      group.forEach((p, i) => mesh.setMatrixAt(i, matrixOf(p)));
      mesh.userData.placements = mesh.userData.all = group;
      const far = new InstancedMesh(standIn(geometry), material, group.length);
      far.count = 0;
      far.userData.placements = [];
      mesh.userData.far = far;
      // Which of them the camera sees changes with each of its moves.
      mesh.frustumCulled = far.frustumCulled = false;
      return [mesh, far];
    }
    return group.map((p) => {
      const mesh = new Mesh(geometry, material);
      mesh.matrixAutoUpdate = false;
      mesh.matrix.copy(matrixOf(p));
      mesh.updateMatrixWorld(true);
      mesh.userData.placements = [p];
      return mesh;
    });
  });
}

/** Of so many only the ground that they stand on is outlined: boxes would hide them. */
const mostBoxes = 60;

/** Ends of the edges of boxes around what stands there, 6 numbers each. */
export function boxEdges(
  standings: readonly { standing: Pick<Standing, 'at' | 'turn' | 'scale'>; bounds: LoadedMesh['bounds'] }[],
): Float32Array {
  const out: number[] = [];
  const [a, b] = [new Vector3(), new Vector3()];
  for (const { standing, bounds } of standings) {
    const matrix = matrixOf(standing);
    const corner = (i: number, to: Vector3) =>
      to.set(...([0, 1, 2].map((k) => ((i >> k) & 1 ? bounds.max[k]! : bounds.min[k]!)) as [number, number, number])).applyMatrix4(matrix);
    const isFlat = standings.length > mostBoxes;
    for (let i = 0; i < 8; i++)
      for (const k of isFlat ? [1, 4] : [1, 2, 4])
        if (!(i & k) && !(isFlat && i & 2)) out.push(...corner(i, a).toArray(), ...corner(i | k, b).toArray());
  }
  return Float32Array.from(out);
}
