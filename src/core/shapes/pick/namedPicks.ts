/** Faces as pairs of first face and count; ascending, as `faces` must be. */
export function spansOfFaces(faces: Uint32Array): number[] {
  const spans: number[] = [];
  for (const f of faces) {
    const last = spans.length - 2;
    if (last >= 0 && spans[last]! + spans[last + 1]! === f) spans[last + 1]!++;
    else spans.push(f, 1);
  }
  return spans;
}

export function facesOfSpans(spans: readonly number[]): Uint32Array {
  const out: number[] = [];
  for (let i = 0; i < spans.length; i += 2) for (let k = 0; k < spans[i + 1]!; k++) out.push(spans[i]! + k);
  return Uint32Array.from(out);
}
