import { BufferAttribute, BufferGeometry, GLSL3, Matrix4, Quaternion, ShaderMaterial, Vector3 } from 'three';
import type { KitState } from '@/core/kit/kit';
import { colorsOfCorners } from '@/core/faces/seat/colorsOfCorners';
import type { Standing } from '@/core/kit/edit/placements';
import type { Pictures } from '@/core/ground/pictures/raster';
import { stateOfVariant } from '@/core/kit/colorings/shown';
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
