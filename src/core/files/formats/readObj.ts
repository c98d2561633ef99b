import { hexFromRgb } from '../../ground/color/hex';
import { Growing } from '../../shapes/mesh/build';
import { measureFaces } from '../../shapes/mesh/measure';
import type { PolyMesh, Slot } from '../../shapes/mesh/polyMesh';
import { checkFaceLimit, FileError, type ReadContext } from '../../ground/bytes/errors';
import type { MtlMaterial } from './readMtl';
import { decodeName, Scanner, utf8Bytes } from '../../ground/bytes/text';

export interface ObjResult {
  mesh: PolyMesh;
  /** Names of material files that the model asks for. */
  libraries: string[];
  /** Faces of fewer than three corners, lines and points that were left out. */
  leftOut: number;
}

const neutral = '#c8c8c8';

/**
 * Wavefront OBJ with polygons kept: negative indices, missing vt or vn, `v` with colors, `o`, `g`, `s`,
 * `usemtl`, continued lines.
 * Source: the format's description by Wavefront (1995). Frame as in the file; V is turned over, since OBJ
 * counts it from below. Throws `FileError` with the line.
 */
export function readObj(
  file: string,
  data: Uint8Array,
  findMaterials: (libraries: string[]) => MtlMaterial[],
  context: ReadContext = {},
): ObjResult {
  const bytes = utf8Bytes(data);
  const s = new Scanner(bytes);
  const fail = (problem: string, at = s.at): never => {
    throw new FileError(file, problem, s.lineAt(at));
  };
  const positions = new Growing(Float32Array, Math.max(1024, bytes.length >> 5));
  const colors = new Growing(Uint8Array);
  const uvs = new Growing(Float32Array);
  const normals = new Growing(Float32Array);
  const faceStart = new Growing(Uint32Array, Math.max(1024, bytes.length >> 6));
  const cornerVertex = new Growing(Uint32Array, Math.max(1024, bytes.length >> 5));
  const cornerUv = new Growing(Int32Array, 1024);
  const cornerNormal = new Growing(Int32Array, 1024);
  const faceSlot = new Growing(Uint16Array);
  const faceObject = new Growing(Uint16Array);
  const faceGroup = new Growing(Uint16Array);
  const faceSmooth = new Growing(Uint32Array);
  const slots = new Names(65535);
  const objects = new Names(65535);
  const groups = new Names(65535);
  const libraries: string[] = [];
  let [slot, object, group, smooth] = [-1, -1, -1, 0];
  let [anyUv, anyNormal, anyColor, anySmooth] = [false, false, false, false];
  let leftOut = 0;
  let nextReport = 1 << 22;
  let known = false;
  faceStart.push(0);

  const readVertex = () => {
    const start = s.at;
    const x = s.number();
    const y = s.number();
    const z = s.number();
    if (x === undefined || y === undefined || z === undefined) fail('a vertex needs three numbers.', start);
    positions.push(x!);
    positions.push(y!);
    positions.push(z!);
    s.skipBlanks();
    if (s.atLineEnd()) {
      if (anyColor) pushColor(1, 1, 1);
      return;
    }
    const extra: number[] = [];
    for (let n = s.number(); n !== undefined && extra.length < 4; n = s.number()) extra.push(n);
    if (extra.length >= 3) {
      if (!anyColor) {
        anyColor = true;
        for (let v = positions.length / 3 - 1; v > 0; v--) pushColor(1, 1, 1);
      }
      pushColor(...(extra.slice(-3) as [number, number, number]));
    } else if (anyColor) pushColor(1, 1, 1);
  };
  const pushColor = (...rgb: [number, number, number]) => {
    // Most writers use 0..1; some 0..255.
    const scale = Math.max(...rgb) > 1 ? 1 : 255;
    for (const v of rgb) colors.push(Math.max(0, Math.min(255, Math.round((v || 0) * scale))));
  };
  const resolve = (index: number, count: number, what: string): number => {
    const at = index < 0 ? count + index : index - 1;
    if (index === 0) fail(`a face uses ${what} 0, but OBJ counts from 1.`);
    if (!(at >= 0 && at < count)) fail(`a face uses ${what} ${index}, but the file has ${count} up to here.`);
    return at;
  };
  const readFace = () => {
    const first = cornerVertex.length;
    const vertices = positions.length / 3;
    const lineStart = s.at;
    for (;;) {
      s.skipBlanks();
      if (s.atLineEnd()) break;
      const v = s.integer();
      if (Number.isNaN(v)) fail('a face holds something that is not a vertex number.');
      cornerVertex.push(resolve(v, vertices, 'vertex'));
      let uv = -1;
      let normal = -1;
      if (bytes[s.at] === 47) {
        s.at++;
        const t = s.integer();
        if (!Number.isNaN(t)) {
          uv = resolve(t, uvs.length / 2, 'texture point');
          anyUv = true;
        }
        if (bytes[s.at] === 47) {
          s.at++;
          const n = s.integer();
          if (!Number.isNaN(n)) {
            normal = resolve(n, normals.length / 3, 'normal');
            anyNormal = true;
          }
        }
      }
      cornerUv.push(uv);
      cornerNormal.push(normal);
      if (bytes[s.at]! > 32 && !s.atLineEnd() && bytes[s.at] !== 92) fail('a face holds something that is not a vertex number.');
    }
    if (cornerVertex.length - first < 3) {
      cornerVertex.length = cornerUv.length = cornerNormal.length = first;
      leftOut++;
      return;
    }
    if (cornerVertex.length - first > 65535) fail('a face with more than 65,535 corners.', lineStart);
    faceStart.push(cornerVertex.length);
    faceSlot.push(slot < 0 ? slots.index('') : slot);
    faceObject.push(object < 0 ? objects.index('') : object);
    faceGroup.push(group < 0 ? groups.index('') : group);
    faceSmooth.push(smooth);
    if (smooth) anySmooth = true;
    if ((faceStart.length & 0xffff) === 0) checkFaceLimit(file, faceStart.length);
  };

  while (s.at < s.end) {
    s.skipBlanks();
    const a = bytes[s.at]!;
    const b = bytes[s.at + 1]!;
    const isBlank = b === 32 || b === 9;
    if (a === 118 && isBlank) {
      s.at += 2;
      readVertex();
    } else if (a === 102 && isBlank) {
      s.at += 2;
      readFace();
    } else if (a === 118 && b === 110) {
      s.at += 2;
      const n = [s.number(), s.number(), s.number()];
      if (n.some((v) => v === undefined)) fail('a normal needs three numbers.');
      const length = Math.hypot(n[0]!, n[1]!, n[2]!) || 1;
      for (const v of n) normals.push(v! / length || 0);
    } else if (a === 118 && b === 116) {
      s.at += 2;
      const u = s.number();
      const v = s.number() ?? 0;
      if (u === undefined) fail('a texture point needs a number.');
      uvs.push(u!);
      uvs.push(1 - v);
    } else if (a > 32 && a !== 35) {
      const word = s.word();
      if (word === 'usemtl') slot = slots.index(decodeName(s.restOfLine()));
      else if (word === 'o') object = objects.index(decodeName(s.restOfLine()));
      else if (word === 'g') group = groups.index(decodeName(s.restOfLine()));
      else if (word === 's') smooth = smoothingGroup(decodeName(s.restOfLine()));
      else if (word === 'mtllib') libraries.push(decodeName(s.restOfLine()));
      else if (word === 'l' || word === 'p') leftOut++;
      else if (
        !known &&
        !/^(vp|cstype|deg|surf|parm|curv|curv2|end|bmat|step|trim|hole|scrv|sp|con|mg|bevel|c_interp|d_interp|lod|shadow_obj|trace_obj|ctech|stech|maplib|usemap|call|csh)$/.test(
          word,
        ) &&
        positions.length === 0
      )
        fail('this does not read as an OBJ model.');
      if (positions.length > 0) known = true;
    }
    s.nextLine();
    if (s.at > nextReport) {
      nextReport = s.at + (1 << 22);
      context.onProgress?.(s.at / s.end, 'Reading');
    }
  }
  if (faceStart.length < 2) throw new FileError(file, positions.length ? 'it has points but no faces.' : 'it holds no model.');
  checkFaceLimit(file, faceStart.length - 1);

  const vertexIds = cornerVertex.done();
  const uvIds = cornerUv.done();
  const normalIds = cornerNormal.done();
  const points = positions.done();
  const starts = faceStart.done();
  const cornerNormals = anyNormal ? gather(normals, normalIds, 3) : anySmooth ? new Float32Array(vertexIds.length * 3) : undefined;
  if (cornerNormals && anySmooth) smoothNormals(points, starts, vertexIds, normalIds, faceSmooth.done(), cornerNormals);
  return {
    mesh: {
      positions: points,
      faceStart: starts,
      cornerVertex: vertexIds,
      uvSets: anyUv ? [gather(uvs, uvIds, 2)] : [],
      ...(cornerNormals && { cornerNormals }),
      ...(anyColor && { cornerColors: gatherColors(colors, vertexIds) }),
      faceSlot: faceSlot.done(),
      slots: slotsFor(slots.all, findMaterials(libraries)),
      faceObject: faceObject.done(),
      objects: objects.all.map((name, i) => name || `object ${i + 1}`),
      ...(groups.all.length > 1 && { faceGroup: faceGroup.done(), groups: groups.all.map((name) => name || 'no group') }),
    },
    libraries,
    leftOut,
  };
}

/** Distinct names in the order they appear; past the limit all share the last. */
class Names {
  readonly all: string[] = [];
  private readonly indices = new Map<string, number>();
  constructor(private readonly most: number) {}
  index(name: string): number {
    let i = this.indices.get(name);
    if (i === undefined) {
      i = Math.min(this.all.length, this.most - 1);
      if (i === this.all.length) this.all.push(name);
      this.indices.set(name, i);
    }
    return i;
  }
}

function gather(values: Growing<Float32Array>, ids: Int32Array, width: number): Float32Array {
  const out = new Float32Array(ids.length * width);
  for (let c = 0; c < ids.length; c++)
    if (ids[c]! >= 0) for (let k = 0; k < width; k++) out[c * width + k] = values.at(ids[c]! * width + k);
  return out;
}

function gatherColors(colors: Growing<Uint8Array>, ids: Uint32Array): Uint8Array {
  const out = new Uint8Array(ids.length * 4).fill(255);
  for (let c = 0; c < ids.length; c++) for (let k = 0; k < 3; k++) out[c * 4 + k] = colors.at(ids[c]! * 3 + k);
  return out;
}

/** 0: off. Names that are no number are groups as well. */
function smoothingGroup(text: string): number {
  const word = text.trim().toLowerCase();
  if (!word || word === 'off' || word === 'null') return 0;
  const n = Number.parseInt(word, 10);
  return Number.isNaN(n) ? 1 : n >>> 0;
}

/**
 * Normals of corners for which the file gives none and whose face lies in a smoothing group: the mean, by
 * area, of the faces of that group around the vertex. Others stay without, which means flat. Method: Newell's
 * normals, whose lengths are twice the areas.
 */
function smoothNormals(
  positions: Float32Array,
  faceStart: Uint32Array,
  cornerVertex: Uint32Array,
  given: Int32Array,
  group: Uint32Array,
  out: Float32Array,
): void {
  const { normals, areas } = measureFaces({ positions, faceStart, cornerVertex });
  const sums = new Map<number, Float64Array>();
  // Groups are few; a number for vertex and group that no other pair has.
  const groups = new Map([...new Set(group)].map((g, i) => [g, i]));
  const eachCorner = (visit: (sum: Float64Array, f: number, c: number) => void) => {
    for (let f = 0; f < group.length; f++) {
      if (!group[f]) continue;
      for (let c = faceStart[f]!; c < faceStart[f + 1]!; c++) {
        const key = cornerVertex[c]! * groups.size + groups.get(group[f]!)!;
        let sum = sums.get(key);
        if (!sum) sums.set(key, (sum = new Float64Array(3)));
        visit(sum, f, c);
      }
    }
  };
  eachCorner((sum, f) => {
    for (let k = 0; k < 3; k++) sum[k]! += normals[f * 3 + k]! * areas[f]!;
  });
  eachCorner((sum, _, c) => {
    const length = Math.hypot(sum[0]!, sum[1]!, sum[2]!);
    if (given[c]! < 0 && length > 0) for (let k = 0; k < 3; k++) out[c * 3 + k] = sum[k]! / length;
  });
}

/** A name that matches no material takes the file's only one, where both sides have just one. */
function slotsFor(names: string[], materials: MtlMaterial[]): Slot[] {
  const used = names.filter(Boolean);
  const only = materials.length === 1 && used.length === 1 ? materials[0] : undefined;
  return names.map((name) => {
    const found =
      materials.find((m) => m.name === name) ??
      materials.find((m) => m.name.toLowerCase() === name.toLowerCase()) ??
      (name ? only : undefined);
    return {
      name: name || 'no material',
      color: found ? hexFromRgb(found.color) : neutral,
      given: found !== undefined && found.hasColor,
      ...(!name && { none: true }),
      ...(found?.picture && { picture: found.picture }),
      ...(found?.alpha !== undefined && found.alpha < 1 && { alpha: found.alpha }),
    };
  });
}
