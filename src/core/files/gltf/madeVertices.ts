import { Primitive, type Document, type Node, type PrimitiveTarget } from '@gltf-transform/core';
import { firstMade, type MadeVertices, type PolyMesh } from '../../shapes/mesh/polyMesh';
import { createAccessor, values, type Numbers } from './accessor';

/**
 * Puts the vertices that cuts have made behind those of an opened glTF's primitives, with everything that the vertices of
 * these have: mixed along the edge, skin weights by joint, at most as many as the file has, and normalised. The mesh with
 * the numbers that they have there.
 */
export function withMadeVertices(mesh: PolyMesh, nodes: readonly Node[], document: Document): PolyMesh {
  const { source } = mesh;
  if (!source?.primitives?.some((p) => p.made)) return mesh;
  const behind = new Map<Primitive, Behind>();
  const numbers = source.primitives.map(({ made, node, primitive }) => {
    if (!made) return null;
    const of = nodes[node]!.getMesh()!.listPrimitives()[primitive]!;
    const own = behind.get(of) ?? new Behind(of.getAttribute('POSITION')!.getCount());
    behind.set(of, own);
    return own.add(made);
  });
  for (const [primitive, own] of behind) own.write(primitive, document);
  const cornerVertex = source.cornerVertex!.slice();
  for (let f = 0; f + 1 < mesh.faceStart.length; f++) {
    const known = numbers[source.facePrimitive![f]!];
    if (!known) continue;
    for (let c = mesh.faceStart[f]!; c < mesh.faceStart[f + 1]!; c++)
      if (cornerVertex[c]! >= firstMade) cornerVertex[c] = known[cornerVertex[c]! - firstMade]!;
  }
  return { ...mesh, source: { ...source, cornerVertex } };
}

type Mixed = readonly [a: number, b: number, share: number];

/** What comes behind the vertices of a primitive. Nodes that show it, cut alike, share what was made. */
class Behind {
  private readonly mixed: Mixed[] = [];
  private readonly known = new Map<string, number>();

  constructor(private readonly count: number) {}

  /** The numbers of made vertices in the primitive. */
  add({ between, share }: MadeVertices): number[] {
    const numbers: number[] = [];
    share.forEach((s, i) => {
      const [a, b] = [between[i * 2]!, between[i * 2 + 1]!].map((v) => (v >= firstMade ? numbers[v - firstMade]! : v)) as [number, number];
      if (Math.max(a, b) >= this.count + this.mixed.length)
        throw new Error('A model was cut between vertices that its file does not have. Read its file again.');
      const key = `${a} ${b} ${s}`;
      const number = this.known.get(key) ?? this.count + this.mixed.push([a, b, s]) - 1;
      this.known.set(key, number);
      numbers.push(number);
    });
    return numbers;
  }

  write(primitive: Primitive, document: Document): void {
    for (const of of [primitive, ...primitive.listTargets()])
      for (const name of of.listSemantics()) if (!/^(JOINTS|WEIGHTS)_/.test(name)) this.mix(of, name, document);
    this.mixSkin(primitive, document);
  }

  /** Places are mixed as numbers with a point, whatever the file keeps them in: a coarse step would open gaps. */
  private mix(of: Primitive | PrimitiveTarget, name: string, document: Document): void {
    const accessor = of.getAttribute(name)!;
    const isPlace = name === 'POSITION';
    const array: Numbers = isPlace ? values(accessor) : (accessor.getArray() as Numbers);
    const width = accessor.getElementSize();
    const out = new (array.constructor as new (n: number) => Numbers)((this.count + this.mixed.length) * width);
    out.set(array.subarray(0, this.count * width));
    const isWhole = !(out instanceof Float32Array);
    this.mixed.forEach(([a, b, s], i) => {
      for (let k = 0; k < width; k++) {
        const from = out[a * width + k]!;
        // Which way a tangent's other axis runs is no length.
        const to = name === 'TANGENT' && k === 3 ? from : out[b * width + k]!;
        const value = from + (to - from) * s;
        out[(this.count + i) * width + k] = isWhole ? Math.round(value) : value;
      }
      // Directions of a primitive are of length 1; those of a morph target say by how much they change.
      if (/^(NORMAL|TANGENT)$/.test(name) && of instanceof Primitive && !isWhole) unit(out, (this.count + i) * width);
    });
    const written = createAccessor(document, accessor.getType() as 'VEC3', out).setName(accessor.getName());
    of.setAttribute(name, written.setNormalized(!isPlace && accessor.getNormalized()));
  }

  private mixSkin(primitive: Primitive, document: Document): void {
    const sets = primitive
      .listSemantics()
      .filter((n) => n.startsWith('JOINTS_') && primitive.getAttribute(n.replace('JOINTS', 'WEIGHTS')))
      .map((name) => {
        const weights = primitive.getAttribute(name.replace('JOINTS', 'WEIGHTS'))!;
        return { name, joints: this.longer(primitive.getAttribute(name)!.getArray() as Numbers), weights: this.longer(values(weights)) };
      });
    if (!sets.length) return;
    this.mixed.forEach(([a, b, s], i) => {
      const sums = new Map<number, number>();
      for (const [v, share] of [
        [a, 1 - s],
        [b, s],
      ] as const)
        for (const { joints, weights } of sets)
          for (let k = v * 4; k < v * 4 + 4; k++) sums.set(joints[k]!, (sums.get(joints[k]!) ?? 0) + weights[k]! * share);
      const most = [...sums].sort((p, q) => q[1] - p[1] || p[0] - q[0]).slice(0, sets.length * 4);
      const all = most.reduce((sum, [, w]) => sum + w, 0) || 1;
      most.forEach(([joint, weight], n) => {
        const { joints, weights } = sets[n >> 2]!;
        joints[(this.count + i) * 4 + (n & 3)] = joint;
        weights[(this.count + i) * 4 + (n & 3)] = weight / all;
      });
    });
    for (const { name, joints, weights } of sets) {
      primitive.setAttribute(name, createAccessor(document, 'VEC4', joints));
      primitive.setAttribute(name.replace('JOINTS', 'WEIGHTS'), createAccessor(document, 'VEC4', weights));
    }
  }

  private longer(array: Numbers): Numbers {
    const out = new (array.constructor as new (n: number) => Numbers)((this.count + this.mixed.length) * 4);
    out.set(array.subarray(0, this.count * 4));
    return out;
  }
}

/** Makes three numbers a direction of length 1, where they are one. */
function unit(values: Numbers, at: number): void {
  const length = Math.hypot(values[at]!, values[at + 1]!, values[at + 2]!);
  if (length > 1e-8) for (let k = 0; k < 3; k++) values[at + k] = values[at + k]! / length;
}
