import type { Accessor, Document, Material, Node, Primitive, Skin } from '@gltf-transform/core';
import { hexFromRgb } from '../../color/hex';
import { byteFromLinear } from '../../color/oklab';
import { firstEqualRows, type Column } from '../../mesh/rows';
import type { PolyMesh, Slot, SourcePrimitive } from '../../mesh/polyMesh';
import { checkFaceLimit, FileError, type ReadContext } from '../errors';

/** A primitive under a node, ready to be joined with the others. */
interface Piece {
  node: Node;
  source: SourcePrimitive;
  primitive: Primitive;
  /** Vertices of the triangles, 3 for each. */
  triangles: Uint32Array;
}

/**
 * All triangles of the scene in its rest pose, in metres. Objects are nodes, slots are materials; each corner remembers its source vertex.
 * Vertices that agree in every attribute count as one, so that files without an index can be mended too.
 * Throws `FileError` with the mesh and primitive.
 */
export function readGltf(file: string, document: Document, context: ReadContext = {}): PolyMesh {
  const pieces = collectPieces(file, document);
  const triangleTotal = pieces.reduce((sum, p) => sum + p.triangles.length / 3, 0);
  if (triangleTotal === 0) throw new FileError(file, 'it holds no triangles.');
  checkFaceLimit(file, triangleTotal);
  const vertexTotal = pieces.reduce((sum, p) => sum + p.primitive.getAttribute('POSITION')!.getCount(), 0);
  const corners = triangleTotal * 3;
  const uvCount = Math.max(...pieces.map((p) => countSets(p.primitive, 'TEXCOORD_')));
  const anyNormals = pieces.some((p) => p.primitive.getAttribute('NORMAL'));
  const anyColors = pieces.some((p) => p.primitive.getAttribute('COLOR_0'));

  const positions = new Float32Array(vertexTotal * 3);
  const cornerVertex = new Uint32Array(corners);
  const sourceVertex = new Uint32Array(corners);
  const cornerNormals = anyNormals ? new Float32Array(corners * 3) : undefined;
  const cornerColors = anyColors ? new Uint8Array(corners * 4).fill(255) : undefined;
  const uvSets = Array.from({ length: uvCount }, () => new Float32Array(corners * 2));
  const faceSlot = new Uint16Array(triangleTotal);
  const faceObject = new Uint16Array(triangleTotal);
  const facePrimitive = new Uint16Array(triangleTotal);
  const { slots, slotOf } = collectSlots(document);
  const objects: string[] = [];
  const objectOf = new Map<Node, number>();

  let vertexBase = 0;
  let cornerBase = 0;
  pieces.forEach((piece, p) => {
    const { node, primitive, triangles } = piece;
    context.onProgress?.(cornerBase / corners, 'Reading');
    if (!objectOf.has(node)) {
      objectOf.set(node, Math.min(objects.length, 65534));
      if (objects.length < 65535) objects.push(node.getName() || node.getMesh()!.getName() || `object ${objects.length + 1}`);
    }
    const position = values(primitive.getAttribute('POSITION')!);
    const count = position.length / 3;
    const { matrix, skin } = restPose(node, primitive);
    const isMirrored = determinant(matrix) < 0;
    const columns: Column[] = primitive
      .listAttributes()
      .flatMap((a) => (a.getCount() === count ? [{ data: a.getArray()!, width: a.getElementSize() }] : []));
    const { first } = firstEqualRows(columns, count);
    const normal = attribute(primitive, 'NORMAL', 3, count);
    const color = primitive.getAttribute('COLOR_0');
    const colorWidth = color?.getElementSize() ?? 0;
    const colorValues = color && color.getCount() === count ? values(color) : null;
    const uvs = uvSets.map((_, i) => attribute(primitive, `TEXCOORD_${i}`, 2, count));
    for (let v = 0; v < count; v++) transformPoint(skin?.(v) ?? matrix, position, v * 3, positions, (vertexBase + v) * 3);
    const normalMatrix = cofactor(matrix);
    for (let i = 0; i < triangles.length; i++) {
      // A mirroring node turns its triangles over.
      const k = isMirrored ? i - (i % 3) + ((3 - (i % 3)) % 3) : i;
      const v = triangles[k]!;
      if (v >= count)
        throw new FileError(
          file,
          `a triangle uses vertex ${v}, but there are ${count}.`,
          `mesh ${piece.source.mesh}, primitive ${piece.source.primitive}`,
        );
      const c = cornerBase + i;
      cornerVertex[c] = vertexBase + first[v]!;
      sourceVertex[c] = first[v]!;
      if (normal && cornerNormals) {
        const m = skin ? cofactor(skin(v)) : normalMatrix;
        transformDirection(m, normal, v * 3, cornerNormals, c * 3, isMirrored && !skin ? -1 : 1);
      }
      if (colorValues && cornerColors) {
        for (let n = 0; n < 3; n++) cornerColors[c * 4 + n] = byteFromLinear(colorValues[v * colorWidth + n]!);
        if (colorWidth === 4) cornerColors[c * 4 + 3] = Math.round(Math.max(0, Math.min(1, colorValues[v * 4 + 3]!)) * 255);
      }
      uvs.forEach((uv, n) => uv && uvSets[n]!.set([uv[v * 2]!, uv[v * 2 + 1]!], c * 2));
    }
    const faces = triangles.length / 3;
    const firstFace = cornerBase / 3;
    faceSlot.fill(slotOf(primitive.getMaterial()), firstFace, firstFace + faces);
    faceObject.fill(objectOf.get(node)!, firstFace, firstFace + faces);
    facePrimitive.fill(p, firstFace, firstFace + faces);
    vertexBase += count;
    cornerBase += triangles.length;
  });
  return {
    positions,
    faceStart: Uint32Array.from({ length: triangleTotal + 1 }, (_, f) => f * 3),
    cornerVertex,
    ...(cornerNormals && { cornerNormals }),
    ...(cornerColors && { cornerColors }),
    uvSets,
    faceSlot,
    slots,
    faceObject,
    objects,
    source: { facePrimitive, cornerVertex: sourceVertex, primitives: pieces.map((p) => p.source) },
  };
}

/** Nodes of the shown scene that carry meshes, in the order of the file. */
export function meshNodes(document: Document): Node[] {
  const root = document.getRoot();
  const scenes = root.getDefaultScene() ? [root.getDefaultScene()!] : root.listScenes();
  if (!scenes.length) return root.listNodes().filter((n) => n.getMesh());
  const shown = new Set<Node>();
  for (const scene of scenes) scene.traverse((node) => shown.add(node));
  return root.listNodes().filter((n) => shown.has(n) && n.getMesh());
}

function collectPieces(file: string, document: Document): Piece[] {
  const root = document.getRoot();
  const nodeIndex = new Map(root.listNodes().map((n, i) => [n, i]));
  const meshIndex = new Map(root.listMeshes().map((m, i) => [m, i]));
  const pieces: Piece[] = [];
  for (const node of meshNodes(document)) {
    const mesh = node.getMesh()!;
    mesh.listPrimitives().forEach((primitive, k) => {
      const position = primitive.getAttribute('POSITION');
      if (!position || position.getElementSize() !== 3) return;
      const triangles = trianglesOf(primitive, position.getCount());
      if (triangles.length)
        pieces.push({ node, primitive, triangles, source: { node: nodeIndex.get(node)!, mesh: meshIndex.get(mesh)!, primitive: k } });
    });
    if (pieces.length > 65535) throw new FileError(file, 'more than 65,535 separate pieces. Join some of them first.');
  }
  return pieces;
}

/** Vertices of triangles, from lists, strips (every second one turned) and fans; points and lines give none. Incomplete ends are dropped. */
export function trianglesOf(primitive: Primitive, vertices: number): Uint32Array {
  const indices = primitive.getIndices()?.getArray() ?? Uint32Array.from({ length: vertices }, (_, i) => i);
  const mode = primitive.getMode();
  if (mode === 4) return Uint32Array.from(indices.subarray(0, indices.length - (indices.length % 3)));
  if (mode !== 5 && mode !== 6) return new Uint32Array(0);
  const out: number[] = [];
  for (let i = 2; i < indices.length; i++) {
    const [a, b, c] =
      mode === 6
        ? [indices[0]!, indices[i - 1]!, indices[i]!]
        : i % 2
          ? [indices[i - 1]!, indices[i - 2]!, indices[i]!]
          : [indices[i - 2]!, indices[i - 1]!, indices[i]!];
    if (a !== b && b !== c && a !== c) out.push(a, b, c);
  }
  return Uint32Array.from(out);
}

function collectSlots(document: Document): { slots: Slot[]; slotOf: (material: Material | null) => number } {
  const materials = document.getRoot().listMaterials();
  const slots: Slot[] = materials.slice(0, 65534).map((material, i) => {
    const texture = material.getBaseColorTexture();
    const factor = material.getBaseColorFactor();
    return {
      name: material.getName() || `material ${i + 1}`,
      color: hexFromRgb([byteFromLinear(factor[0]), byteFromLinear(factor[1]), byteFromLinear(factor[2])]),
      given: true,
      ...(texture && { picture: texture.getName() || texture.getURI() || `picture ${i + 1}` }),
      material: i,
    };
  });
  const index = new Map(materials.map((m, i) => [m, Math.min(i, 65533)]));
  const none = slots.length;
  slots.push({ name: 'no material', color: '#c8c8c8', given: false, none: true });
  return { slots, slotOf: (material) => (material ? index.get(material)! : none) };
}

function countSets(primitive: Primitive, prefix: string): number {
  let n = 0;
  while (primitive.getAttribute(prefix + n)) n++;
  return n;
}

/** The accessor's numbers, with normalized integers turned into 0..1 or -1..1. */
function values(accessor: Accessor): Float32Array {
  const array = accessor.getArray()!;
  if (array instanceof Float32Array) return array;
  const out = new Float32Array(array.length);
  const most = accessor.getNormalized() ? { 1: 127, 2: 32767, 4: 2147483647 }[array.BYTES_PER_ELEMENT]! : 1;
  const isSigned = array instanceof Int8Array || array instanceof Int16Array || array instanceof Int32Array;
  const scale = accessor.getNormalized() ? (isSigned ? most : most * 2 + 1) : 1;
  for (let i = 0; i < array.length; i++) out[i] = Math.max(-1, array[i]! / scale);
  if (!accessor.getNormalized()) out.set(array);
  return out;
}

function attribute(primitive: Primitive, name: string, width: number, count: number): Float32Array | null {
  const accessor = primitive.getAttribute(name);
  return accessor && accessor.getElementSize() === width && accessor.getCount() === count ? values(accessor) : null;
}

type Matrix = ArrayLike<number>;

/** The node's world matrix, or for a skinned mesh a matrix for each vertex: the weighted sum of joint matrices, which replaces the node's. */
function restPose(node: Node, primitive: Primitive): { matrix: Matrix; skin?: (vertex: number) => Matrix } {
  const matrix = node.getWorldMatrix();
  const skin = node.getSkin();
  const joints = primitive.getAttribute('JOINTS_0')?.getArray();
  const weightAccessor = primitive.getAttribute('WEIGHTS_0');
  if (!skin || !joints || !weightAccessor) return { matrix };
  const palette = jointMatrices(skin);
  const weights = values(weightAccessor);
  if (!palette.length) return { matrix };
  const sum = new Float64Array(16);
  return {
    matrix,
    skin: (vertex) => {
      sum.fill(0);
      let total = 0;
      for (let k = 0; k < 4; k++) {
        const w = weights[vertex * 4 + k] ?? 0;
        const joint = palette[joints[vertex * 4 + k] ?? 0];
        if (!w || !joint) continue;
        total += w;
        for (let i = 0; i < 16; i++) sum[i]! += joint[i]! * w;
      }
      if (total === 0) return matrix;
      for (let i = 0; i < 16; i++) sum[i]! /= total;
      return sum;
    },
  };
}

function jointMatrices(skin: Skin): Matrix[] {
  const inverse = skin.getInverseBindMatrices()?.getArray();
  return skin.listJoints().map((joint, j) => {
    const world = joint.getWorldMatrix();
    return inverse && inverse.length >= j * 16 + 16 ? multiply(world, inverse.subarray(j * 16, j * 16 + 16)) : world;
  });
}

function multiply(a: Matrix, b: Matrix): Float64Array {
  const out = new Float64Array(16);
  for (let column = 0; column < 4; column++)
    for (let row = 0; row < 4; row++) for (let k = 0; k < 4; k++) out[column * 4 + row]! += a[k * 4 + row]! * b[column * 4 + k]!;
  return out;
}

function transformPoint(m: Matrix, from: ArrayLike<number>, i: number, to: Float32Array, o: number): void {
  const [x, y, z] = [from[i]!, from[i + 1]!, from[i + 2]!];
  for (let row = 0; row < 3; row++) to[o + row] = m[row]! * x + m[4 + row]! * y + m[8 + row]! * z + m[12 + row]!;
}

/** The matrix that carries normals: the cofactors of the upper left 3 × 3, column by column. */
function cofactor(m: Matrix): Float64Array {
  const a = (r: number, c: number) => m[c * 4 + r]!;
  const out = new Float64Array(9);
  for (let c = 0; c < 3; c++)
    for (let r = 0; r < 3; r++) {
      const [r1, r2, c1, c2] = [(r + 1) % 3, (r + 2) % 3, (c + 1) % 3, (c + 2) % 3];
      out[c * 3 + r] = a(r1, c1) * a(r2, c2) - a(r1, c2) * a(r2, c1);
    }
  return out;
}

function determinant(m: Matrix): number {
  const c = cofactor(m);
  return m[0]! * c[0]! + m[1]! * c[1]! + m[2]! * c[2]!;
}

function transformDirection(m: Float64Array, from: ArrayLike<number>, i: number, to: Float32Array, o: number, sign: number): void {
  const [x, y, z] = [from[i]!, from[i + 1]!, from[i + 2]!];
  const v = [m[0]! * x + m[3]! * y + m[6]! * z, m[1]! * x + m[4]! * y + m[7]! * z, m[2]! * x + m[5]! * y + m[8]! * z];
  const length = Math.hypot(v[0]!, v[1]!, v[2]!) * sign;
  if (length !== 0 && Number.isFinite(length)) for (let k = 0; k < 3; k++) to[o + k] = v[k]! / length;
}
