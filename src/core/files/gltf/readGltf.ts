import type { Document, Material, Node, Primitive, Skin } from '@gltf-transform/core';
import { hexFromRgb } from '../../ground/color/hex';
import { byteFromLinear } from '../../ground/color/oklab';
import { firstEqualRows, type Column } from '../../shapes/mesh/rows';
import type { PolyMesh, Slot, SourcePrimitive } from '../../shapes/mesh/polyMesh';
import { checkFaceLimit, FileError, type ReadContext } from '../../ground/bytes/errors';
import { values } from './accessor';
import { joinNumbers } from './joinNumbers';
import { keptNodes } from './meantNames';
import { meshNodes } from './scenes';
import { cofactor, determinant, multiply, transformDirection, transformPoint, type Matrix } from './matrix';

/** A primitive under a node, ready to be joined with the others. */
interface Piece {
  node: Node;
  source: SourcePrimitive;
  primitive: Primitive;
  /** Vertices of the triangles, 3 for each. */
  triangles: Uint32Array;
}

/**
 * All triangles of the scene in its rest pose, in metres. Objects are nodes, slots are materials; each corner
 * remembers its source vertex. Vertices that agree in every attribute count as one, so that files without an
 * index can be mended too. Throws `FileError` with the mesh and primitive.
 */
export function readGltf(file: string, document: Document, context: ReadContext = {}): PolyMesh {
  const { pieces, otherDraws } = collectPieces(file, document);
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
    const isMirrored = piece.source.mirrored!;
    // Vertices that only a morph target tells apart stay apart.
    const columns: Column[] = [primitive, ...primitive.listTargets()].flatMap((from) =>
      from.listAttributes().flatMap((a) => (a.getCount() === count ? [{ data: a.getArray()!, width: a.getElementSize() }] : [])),
    );
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
        transformDirection(m, normal, v * 3, cornerNormals, c * 3, isMirrored ? -1 : 1);
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
    source: {
      facePrimitive,
      cornerVertex: sourceVertex,
      primitives: pieces.map((p) => p.source),
      ...(otherDraws && { otherDraws }),
    },
  };
}

function collectPieces(file: string, document: Document): { pieces: Piece[]; otherDraws: number } {
  const root = document.getRoot();
  const nodeIndex = new Map(root.listNodes().map((n, i) => [n, i]));
  const meshIndex = new Map(root.listMeshes().map((m, i) => [m, i]));
  const joinsOf = joinNumbers(document);
  const [meant, named] = (['meant', 'named'] as const).map((which) => joinNumbers(document, keptNodes(root.listNodes(), which)));
  const pieces: Piece[] = [];
  let otherDraws = 0;
  for (const node of meshNodes(document)) {
    const mesh = node.getMesh()!;
    mesh.listPrimitives().forEach((primitive, k) => {
      const position = primitive.getAttribute('POSITION');
      const triangles = position && position.getElementSize() === 3 ? trianglesOf(primitive, position.getCount()) : new Uint32Array(0);
      if (!triangles.length) {
        otherDraws++;
        return;
      }
      const { skin } = restPose(node, primitive);
      const source = {
        node: nodeIndex.get(node)!,
        mesh: meshIndex.get(mesh)!,
        primitive: k,
        // A skin replaces the node's transform, and with it what that turns over.
        mirrored: !skin && determinant(node.getWorldMatrix()) < 0,
        moves: Boolean(skin) || primitive.listTargets().length > 0,
        joins: joinsOf(node, primitive),
        apart: { meant: meant!(node, primitive), named: named!(node, primitive) },
      };
      pieces.push({ node, primitive, triangles, source });
    });
    if (pieces.length > 65535) throw new FileError(file, 'more than 65,535 separate pieces. Join some of them first.');
  }
  return { pieces, otherDraws };
}

/**
 * Vertices of triangles, from lists, strips (every second one turned) and fans; points and lines give none.
 * Incomplete ends are dropped.
 */
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
      ...(material.getDoubleSided() && { doubleSided: true }),
      ...(material.getAlphaMode() === 'BLEND' && factor[3] < 1 && { alpha: factor[3] }),
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

function attribute(primitive: Primitive, name: string, width: number, count: number): Float32Array | null {
  const accessor = primitive.getAttribute(name);
  return accessor && accessor.getElementSize() === width && accessor.getCount() === count ? values(accessor) : null;
}

/**
 * The node's world matrix, or for a skinned mesh a matrix for each vertex: the weighted sum of joint
 * matrices, which replaces the node's.
 */
function restPose(node: Node, primitive: Primitive): { matrix: Matrix; skin?: (vertex: number) => Matrix } {
  const matrix = node.getWorldMatrix();
  const skin = node.getSkin();
  const sets = influences(primitive);
  if (!skin || !sets.length) return { matrix };
  const palette = jointMatrices(skin);
  if (!palette.length) return { matrix };
  const sum = new Float64Array(16);
  return {
    matrix,
    skin: (vertex) => {
      sum.fill(0);
      let total = 0;
      for (const { joints, weights } of sets)
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

/** Joints and weights, four of each in a set. */
function influences(primitive: Primitive): { joints: ArrayLike<number>; weights: Float32Array }[] {
  const sets = [];
  for (let i = 0; ; i++) {
    const joints = primitive.getAttribute(`JOINTS_${i}`)?.getArray();
    const weights = primitive.getAttribute(`WEIGHTS_${i}`);
    if (!joints || !weights) return sets;
    sets.push({ joints, weights: values(weights) });
  }
}

function jointMatrices(skin: Skin): Matrix[] {
  const inverse = skin.getInverseBindMatrices()?.getArray();
  return skin.listJoints().map((joint, j) => {
    const world = joint.getWorldMatrix();
    return inverse && inverse.length >= j * 16 + 16 ? multiply(world, inverse.subarray(j * 16, j * 16 + 16)) : world;
  });
}
