import type { Accessor, Document, Primitive, TypedArray } from '@gltf-transform/core';

export type Numbers = Float32Array | Uint32Array | Uint16Array | Uint8Array | Int32Array | Int16Array | Int8Array;

export function createAccessor(document: Document, type: 'SCALAR' | 'VEC2' | 'VEC3' | 'VEC4', array: Numbers): Accessor {
  const buffer = document.getRoot().listBuffers()[0] ?? document.createBuffer();
  return document
    .createAccessor()
    .setType(type)
    .setArray(array as TypedArray)
    .setBuffer(buffer);
}

/** Indices of triangles, in 16 bits where they fit (the largest value is reserved by the format). */
export function setIndices(document: Document, primitive: Primitive, index: Uint32Array, vertices: number): Primitive {
  return primitive.setIndices(createAccessor(document, 'SCALAR', vertices > 65535 ? index : Uint16Array.from(index)));
}

/** The accessor's numbers, with normalized integers turned into 0..1 or -1..1. */
export function values(accessor: Accessor): Float32Array {
  const array = accessor.getArray()!;
  if (array instanceof Float32Array) return array;
  const out = new Float32Array(array.length);
  if (!accessor.getNormalized()) {
    out.set(array);
    return out;
  }
  const most = { 1: 127, 2: 32767, 4: 2147483647 }[array.BYTES_PER_ELEMENT]!;
  const isSigned = array instanceof Int8Array || array instanceof Int16Array;
  const scale = isSigned ? most : most * 2 + 1;
  for (let i = 0; i < array.length; i++) out[i] = Math.max(-1, array[i]! / scale);
  return out;
}
