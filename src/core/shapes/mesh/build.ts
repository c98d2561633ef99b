import type { MeshSource, PolyMesh, Slot } from './polyMesh';

/** Numbers without boxing, growing by doubling: what readers collect a mesh of unknown size in. */
export class Growing<T extends Float32Array | Uint32Array | Uint16Array | Uint8Array | Int32Array> {
  length = 0;
  private data: T;
  constructor(
    private readonly make: new (n: number) => T,
    capacity = 1024,
  ) {
    this.data = new make(capacity);
  }
  push(value: number): void {
    if (this.length === this.data.length) this.reserve(1);
    this.data[this.length++] = value;
  }
  private reserve(more: number): void {
    let size = this.data.length;
    while (size < this.length + more) size *= 2;
    const next = new this.make(size);
    next.set(this.data);
    this.data = next;
  }
  at(i: number): number {
    return this.data[i]!;
  }
  /** A copy of exactly what was pushed. */
  done(): T {
    return this.data.slice(0, this.length) as T;
  }
}

export interface PlainMesh {
  positions: ArrayLike<number>;
  faces: readonly (readonly number[])[];
  faceSlot?: ArrayLike<number>;
  slots?: Slot[];
  faceObject?: ArrayLike<number>;
  objects?: string[];
}

/** A mesh from plain lists, for generators and tests. */
export function meshFromLists({ positions, faces, faceSlot, slots, faceObject, objects }: PlainMesh): PolyMesh {
  const faceStart = new Uint32Array(faces.length + 1);
  faces.forEach((f, i) => (faceStart[i + 1] = faceStart[i]! + f.length));
  return {
    positions: Float32Array.from(positions),
    faceStart,
    cornerVertex: Uint32Array.from(faces.flat()),
    uvSets: [],
    faceSlot: faceSlot ? Uint16Array.from(faceSlot) : new Uint16Array(faces.length),
    slots: slots ?? [{ name: 'no material', color: '#c8c8c8', given: false, none: true }],
    faceObject: faceObject ? Uint16Array.from(faceObject) : new Uint16Array(faces.length),
    objects: objects ?? ['mesh'],
  };
}

/**
 * The mesh with only the given faces (ascending), each optionally with its corners in another order. Vertices
 * stay as they are.
 */
export function takeFaces(mesh: PolyMesh, faces: Uint32Array, reverse?: Uint8Array): PolyMesh {
  const faceStart = new Uint32Array(faces.length + 1);
  faces.forEach((f, i) => (faceStart[i + 1] = faceStart[i]! + mesh.faceStart[f + 1]! - mesh.faceStart[f]!));
  const from = new Uint32Array(faceStart[faces.length]!);
  faces.forEach((f, i) => {
    const start = mesh.faceStart[f]!;
    const size = mesh.faceStart[f + 1]! - start;
    // The first corner stays first, so that a mended quad keeps its diagonal.
    for (let k = 0; k < size; k++) from[faceStart[i]! + k] = start + (reverse?.[f] && k > 0 ? size - k : k);
  });
  const normals = mesh.cornerNormals && pickRows(mesh.cornerNormals, from, 3);
  if (normals && reverse) faces.forEach((f, i) => reverse[f] && negate(normals, faceStart[i]! * 3, faceStart[i + 1]! * 3));
  return {
    ...mesh,
    faceStart,
    cornerVertex: pickRows(mesh.cornerVertex, from, 1),
    ...(normals && { cornerNormals: normals }),
    ...(mesh.cornerColors && { cornerColors: pickRows(mesh.cornerColors, from, 4) }),
    uvSets: mesh.uvSets.map((uv) => pickRows(uv, from, 2)),
    faceSlot: pickRows(mesh.faceSlot, faces, 1),
    faceObject: pickRows(mesh.faceObject, faces, 1),
    ...(mesh.faceGroup && { faceGroup: pickRows(mesh.faceGroup, faces, 1) }),
    ...(mesh.source && { source: takeSource(mesh.source, faces, from, reverse) }),
  };
}

/** The mesh without vertices that no corner has. */
export function withoutUnusedVertices(mesh: PolyMesh): PolyMesh {
  const number = new Int32Array(mesh.positions.length / 3).fill(-1);
  for (const v of mesh.cornerVertex) number[v] = 0;
  const used = Uint32Array.from(number.keys()).filter((v) => number[v]! >= 0);
  used.forEach((v, i) => (number[v] = i));
  return { ...mesh, positions: pickRows(mesh.positions, used, 3), cornerVertex: mesh.cornerVertex.map((v) => number[v]!) };
}

function takeSource(source: MeshSource, faces: Uint32Array, from: Uint32Array, reverse?: Uint8Array): MeshSource {
  const taken: MeshSource = { ...source };
  if (source.triangles) {
    const triangles = (taken.triangles = pickRows(source.triangles, faces, 2));
    // Reversing a mended quad swaps its two halves.
    if (reverse)
      faces.forEach((f, i) => {
        const [first, second] = [triangles[i * 2]!, triangles[i * 2 + 1]!];
        if (reverse[f] && second >= 0) triangles.set([second, first], i * 2);
      });
  }
  if (source.facePrimitive) taken.facePrimitive = pickRows(source.facePrimitive, faces, 1);
  if (source.cornerVertex) taken.cornerVertex = pickRows(source.cornerVertex, from, 1);
  if (source.reversed || reverse) {
    const before = source.reversed;
    taken.reversed = Uint8Array.from(faces, (f) => (before?.[f] ?? 0) ^ (reverse?.[f] ?? 0));
  }
  return taken;
}

function negate(values: Float32Array, start: number, end: number): void {
  for (let i = start; i < end; i++) values[i] = -values[i]!;
}

/** Rows of `width` numbers in the order of `rows`. */
export function pickRows<T extends Float32Array | Uint32Array | Uint16Array | Uint8Array | Int32Array>(
  data: T,
  rows: Uint32Array,
  width: number,
): T {
  const out = new (data.constructor as new (n: number) => T)(rows.length * width);
  if (width === 1) for (let i = 0; i < rows.length; i++) out[i] = data[rows[i]!]!;
  else for (let i = 0; i < rows.length; i++) for (let k = 0; k < width; k++) out[i * width + k] = data[rows[i]! * width + k]!;
  return out;
}
