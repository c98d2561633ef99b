import {
  BufferAttribute,
  BufferGeometry,
  Frustum,
  Group,
  InstancedMesh,
  Matrix4,
  Mesh,
  Sphere,
  Vector3,
  type Camera,
  type Object3D,
  type ShaderMaterial,
  type TypedArray,
} from 'three';
import type { Placement } from '@/core/kit/kit';
import { coarsened, fewest, type TintedShape } from '@/core/stage/coarse';
import { matrixOf } from './stageMeshes';

/** Cells of the grid that a coarse shape is drawn together in. */
const coarseCells = 10;
/** Pixels of a ball's radius up to which its coarse shape looks the same: a cell is less than two pixels there. */
const coarseUpTo = 8;
/** The same for a shape of the fewest triangles. */
const fewUpTo = 3;
/** Triangles that a shape of the fewest has at most. */
const mostFew = 32;

/** From the best to the simplest. */
enum Level {
  unseen,
  whole,
  coarse,
  few,
}

/** What stands there of one model in one coloring. */
interface Alike {
  geometry: BufferGeometry;
  placements: Placement[];
  /** As they are, and from the coarse shape; the latter once it is needed. */
  drawn: Record<Level.whole | Level.coarse, InstancedMesh | null>;
}

/** Coarse shapes of what has these colors. */
const simpler = new WeakMap<object, { coarse: TintedShape; few: TintedShape }>();
function simplerShapes(geometry: BufferGeometry): { coarse: TintedShape; few: TintedShape } {
  const tint = geometry.getAttribute('tint');
  let own = simpler.get(tint);
  if (!own) {
    const shape = shapeOf(geometry);
    simpler.set(tint, (own = { coarse: coarsened(shape, coarseCells), few: fewest(shape, mostFew) }));
  }
  return own;
}

/**
 * All that stands on a stage. Models of one coloring are instances; where all of them are more than can be drawn in
 * time, what is small on the screen is drawn from coarse shapes, the smallest from those of
 * the fewest triangles, each of these in one call.
 */
export class StageCrowd {
  /** What is drawn. */
  readonly root = new Group();
  /** What a ray meets: each placement as it is, however it is drawn. */
  readonly pickable: Object3D[];
  /** Triangles drawn at the last choice. */
  triangles = 0;
  /** Something was drawn less exactly than it is, at a size at which that could be seen. */
  isReduced = false;
  private readonly groups: Alike[] = [];
  private readonly all: { group: Alike; matrix: Matrix4; ball: Sphere; cost: number }[] = [];
  /** Triangles of all of it. */
  private readonly whole: number;
  private readonly levels: Uint8Array;
  private few: MergedShapes | null = null;

  constructor(
    placements: readonly Placement[],
    shapeFor: (placement: Placement) => BufferGeometry | null,
    private readonly material: ShaderMaterial,
  ) {
    const groupOf = new Map<BufferGeometry, Alike>();
    for (const placement of placements) {
      const geometry = shapeFor(placement);
      if (!geometry) continue;
      let group = groupOf.get(geometry);
      if (!group) {
        group = { geometry, placements: [], drawn: { [Level.whole]: null, [Level.coarse]: null } };
        groupOf.set(geometry, group);
        this.groups.push(group);
      }
      group.placements.push(placement);
      const matrix = matrixOf(placement);
      this.all.push({ group, matrix, ball: geometry.boundingSphere!.clone().applyMatrix4(matrix), cost: geometry.index!.count / 3 });
    }
    this.whole = this.all.reduce((sum, each) => sum + each.cost, 0);
    this.levels = new Uint8Array(this.all.length);
    this.pickable = this.groups.map(({ geometry, placements: own }) => {
      const met = new InstancedMesh(geometry, material, own.length);
      own.forEach((p, i) => met.setMatrixAt(i, matrixOf(p)));
      met.userData.placements = own;
      return met;
    });
  }

  /** Whether all of it is drawn as it is with so many triangles, wherever the camera is. */
  fits(triangles: number): boolean {
    return this.whole <= triangles;
  }

  /** Chooses how each is drawn, with at most so many triangles, where the fewest of all are not more. `height`: of the screen, pixels. */
  choose(camera: Camera & { fov?: number }, height: number, triangles: number): void {
    camera.updateMatrixWorld();
    const sees = new Frustum().setFromProjectionMatrix(new Matrix4().multiplyMatrices(camera.projectionMatrix, camera.matrixWorldInverse));
    const eye = new Vector3().setFromMatrixPosition(camera.matrixWorld);
    const pixels = height / 2 / Math.tan((((camera.fov ?? 32) / 2) * Math.PI) / 180);
    const next = new Uint8Array(this.all.length);
    const seen: { i: number; size: number }[] = [];
    let wanted = 0;
    this.all.forEach(({ ball, cost }, i) => {
      if (!sees.intersectsSphere(ball)) return;
      seen.push({ i, size: (ball.radius * pixels) / Math.max(1e-3, ball.center.distanceTo(eye) - ball.radius) });
      wanted += cost;
    });
    this.isReduced = false;
    if (wanted <= triangles) for (const { i } of seen) next[i] = Level.whole;
    else this.share(seen, triangles, next);
    this.show(next);
  }

  /** Each has the fewest triangles at least; what looks worst becomes better by a step, for as long as there is time. */
  private share(seen: { i: number; size: number }[], triangles: number, next: Uint8Array): void {
    const few = (this.few ??= this.merge());
    const coarse = new Map(this.groups.map((g) => [g, simplerShapes(g.geometry).coarse.triangles.length / 3]));
    let left = triangles;
    const steps = seen.flatMap(({ i, size }) => {
      const [cost, simple] = [coarse.get(this.all[i]!.group)!, few.costOf(i)];
      next[i] = Level.few;
      left -= simple;
      return [
        { i, to: Level.coarse, error: size / fewUpTo, more: cost - simple },
        { i, to: Level.whole, error: size / coarseUpTo, more: this.all[i]!.cost - cost },
      ].filter(({ error }) => error > 1);
    });
    for (const { i, to, more } of steps.sort((a, b) => b.error - a.error)) {
      const isNext = next[i] === (to as number) + 1;
      if (isNext && more <= left) {
        left -= more;
        next[i] = to;
      } else this.isReduced = true;
    }
  }

  private show(next: Uint8Array): void {
    if (this.triangles && next.every((level, i) => level === this.levels[i])) return;
    this.levels.set(next);
    this.triangles = 0;
    const counts = new Map<InstancedMesh, number>();
    const few: number[] = [];
    this.all.forEach(({ group, matrix }, i) => {
      const level = next[i] as Level;
      if (level === Level.few) few.push(i);
      if (level !== Level.whole && level !== Level.coarse) return;
      const mesh = (group.drawn[level] ??= this.instances(group, level));
      const count = counts.get(mesh) ?? 0;
      mesh.setMatrixAt(count, matrix);
      counts.set(mesh, count + 1);
      this.triangles += mesh.geometry.index!.count / 3;
    });
    for (const { drawn } of this.groups)
      for (const mesh of Object.values(drawn)) {
        if (!mesh) continue;
        mesh.count = counts.get(mesh) ?? 0;
        mesh.visible = mesh.count > 0;
        mesh.instanceMatrix.needsUpdate = true;
      }
    if (few.length || this.few) this.triangles += (this.few ??= this.merge()).show(few);
  }

  private instances({ geometry, placements }: Alike, level: Level.whole | Level.coarse): InstancedMesh {
    const shape = level === Level.whole ? geometry : geometryOf(simplerShapes(geometry).coarse);
    const mesh = new InstancedMesh(shape, this.material, placements.length);
    // Which of them the camera sees is chosen here.
    mesh.frustumCulled = false;
    this.root.add(mesh);
    return mesh;
  }

  private merge(): MergedShapes {
    const merged = new MergedShapes(
      this.all.map(({ group, matrix }) => ({ shape: simplerShapes(group.geometry).few, matrix })),
      this.material,
    );
    this.root.add(merged.mesh);
    return merged;
  }

  dispose(): void {
    for (const { drawn } of this.groups) {
      drawn[Level.whole]?.dispose();
      // Models' own shapes are kept, these are the crowd's.
      drawn[Level.coarse]?.dispose();
      drawn[Level.coarse]?.geometry.dispose();
    }
    for (const met of this.pickable) (met as InstancedMesh).dispose();
    this.few?.mesh.geometry.dispose();
  }
}

/** Shapes at their places in one mesh, of which any are drawn in one call. */
class MergedShapes {
  readonly mesh: Mesh<BufferGeometry, ShaderMaterial>;
  private readonly starts: Uint32Array;
  private readonly triangles: Uint32Array;

  constructor(entries: readonly { shape: TintedShape; matrix: Matrix4 }[], material: ShaderMaterial) {
    const vertices = entries.reduce((sum, { shape }) => sum + shape.positions.length / 3, 0);
    this.starts = new Uint32Array(entries.length + 1);
    entries.forEach(({ shape }, i) => (this.starts[i + 1] = this.starts[i]! + shape.triangles.length));
    this.triangles = new Uint32Array(this.starts[entries.length]!);
    const [positions, normals] = [new Float32Array(vertices * 3), new Int8Array(vertices * 3)];
    const tints = new Uint8Array(vertices * 4);
    let first = 0;
    entries.forEach(({ shape, matrix: { elements: m } }, i) => {
      const { positions: p, normals: n } = shape;
      const own = p.length / 3;
      const size = Math.hypot(m[0]!, m[1]!, m[2]!);
      for (let v = 0; v < own; v++)
        for (let k = 0; k < 3; k++) {
          const at = (first + v) * 3 + k;
          positions[at] = m[k]! * p[v * 3]! + m[4 + k]! * p[v * 3 + 1]! + m[8 + k]! * p[v * 3 + 2]! + m[12 + k]!;
          normals[at] = Math.round(((m[k]! * n[v * 3]! + m[4 + k]! * n[v * 3 + 1]! + m[8 + k]! * n[v * 3 + 2]!) / size) * 127);
        }
      tints.set(shape.tints, first * 4);
      for (let t = 0; t < shape.triangles.length; t++) this.triangles[this.starts[i]! + t] = first + shape.triangles[t]!;
      first += own;
    });
    this.mesh = new Mesh(geometryOf({ positions, normals, tints, triangles: new Uint32Array(this.triangles.length) }), material);
    this.mesh.frustumCulled = false;
    this.mesh.matrixAutoUpdate = false;
  }

  costOf(entry: number): number {
    return (this.starts[entry + 1]! - this.starts[entry]!) / 3;
  }

  /** Draws these; returns how many triangles that is. */
  show(entries: readonly number[]): number {
    const index = this.mesh.geometry.index!;
    let count = 0;
    for (const i of entries) {
      const own = this.triangles.subarray(this.starts[i], this.starts[i + 1]);
      (index.array as Uint32Array).set(own, count);
      count += own.length;
    }
    index.clearUpdateRanges();
    index.addUpdateRange(0, count);
    index.needsUpdate = count > 0;
    this.mesh.geometry.setDrawRange(0, count);
    this.mesh.visible = count > 0;
    return count / 3;
  }
}

function geometryOf({ positions, normals, tints, triangles }: Record<keyof TintedShape, TypedArray>): BufferGeometry {
  const geometry = new BufferGeometry();
  geometry.setAttribute('position', new BufferAttribute(positions, 3));
  geometry.setAttribute('normal', new BufferAttribute(normals, 3, normals instanceof Int8Array));
  geometry.setAttribute('tint', new BufferAttribute(tints, 4, true));
  geometry.setIndex(new BufferAttribute(triangles, 1));
  return geometry;
}

function shapeOf(geometry: BufferGeometry): TintedShape {
  const array = (name: string) => geometry.getAttribute(name).array;
  return {
    positions: array('position') as Float32Array,
    normals: array('normal') as Float32Array,
    tints: array('tint') as Uint8Array,
    triangles: Uint32Array.from(geometry.index!.array),
  };
}

/** Each placement drawn by itself, as an engine without instances does. */
export function drawnApart(
  placements: readonly Placement[],
  geometryOf: (placement: Placement) => BufferGeometry | null,
  material: ShaderMaterial,
): Object3D[] {
  return placements.flatMap((p) => {
    const geometry = geometryOf(p);
    if (!geometry) return [];
    const mesh = new Mesh(geometry, material);
    mesh.matrixAutoUpdate = false;
    mesh.matrix.copy(matrixOf(p));
    mesh.updateMatrixWorld(true);
    mesh.userData.placements = [p];
    return [mesh];
  });
}

/** What of an object that a ray meets stands where: its placements, in the order of its instances. */
export const placementsIn = (object: Object3D): readonly Placement[] => object.userData.placements as readonly Placement[];
