/** Indices below `count` for which something holds, ascending: the faces that flags, cells or regions name. */
export function facesWhere(count: number, holds: (face: number) => unknown): Uint32Array {
  const out = new Uint32Array(count);
  let n = 0;
  for (let f = 0; f < count; f++) if (holds(f)) out[n++] = f;
  return out.slice(0, n);
}
