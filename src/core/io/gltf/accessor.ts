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
