/** Matrices of 4 × 4 numbers, column by column, as glTF has them. */
export type Matrix = ArrayLike<number>;

export const identity = [1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1] as const;

export function multiply(a: Matrix, b: Matrix): Float64Array {
  const out = new Float64Array(16);
  for (let column = 0; column < 4; column++)
    for (let row = 0; row < 4; row++) for (let k = 0; k < 4; k++) out[column * 4 + row]! += a[k * 4 + row]! * b[column * 4 + k]!;
  return out;
}

export function transformPoint(m: Matrix, from: ArrayLike<number>, i: number, to: Float32Array, o: number): void {
  const [x, y, z] = [from[i]!, from[i + 1]!, from[i + 2]!];
  for (let row = 0; row < 3; row++) to[o + row] = m[row]! * x + m[4 + row]! * y + m[8 + row]! * z + m[12 + row]!;
}

/** The matrix that carries normals, 3 × 3: the cofactors of the upper left, column by column. */
export function cofactor(m: Matrix): Float64Array {
  const a = (r: number, c: number) => m[c * 4 + r]!;
  const out = new Float64Array(9);
  for (let c = 0; c < 3; c++)
    for (let r = 0; r < 3; r++) {
      const [r1, r2, c1, c2] = [(r + 1) % 3, (r + 2) % 3, (c + 1) % 3, (c + 2) % 3];
      out[c * 3 + r] = a(r1, c1) * a(r2, c2) - a(r1, c2) * a(r2, c1);
    }
  return out;
}

/** The upper left 3 × 3, which carries directions along a surface. */
export const linearPart = (m: Matrix): Float64Array => Float64Array.of(m[0]!, m[1]!, m[2]!, m[4]!, m[5]!, m[6]!, m[8]!, m[9]!, m[10]!);

/** Of the upper left 3 × 3; below zero where it mirrors. */
export function determinant(m: Matrix): number {
  const c = cofactor(m);
  return m[0]! * c[0]! + m[1]! * c[1]! + m[2]! * c[2]!;
}

/** The inverse of a matrix whose last row is 0 0 0 1; the unit matrix where it has none. */
export function inverse(m: Matrix): Float64Array {
  const c = cofactor(m);
  const d = determinant(m);
  const out = Float64Array.of(1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1);
  if (d === 0 || !Number.isFinite(d)) return out;
  for (let row = 0; row < 3; row++) {
    for (let column = 0; column < 3; column++) out[column * 4 + row] = c[row * 3 + column]! / d;
    out[12 + row] = -(out[row]! * m[12]! + out[4 + row]! * m[13]! + out[8 + row]! * m[14]!);
  }
  return out;
}

/** A direction under a 3 × 3, of unit length; nothing is written where it has no length. `sign`: -1 turns it over. */
export function transformDirection(m: Float64Array, from: ArrayLike<number>, i: number, to: Float32Array, o: number, sign: number): void {
  const [x, y, z] = [from[i]!, from[i + 1]!, from[i + 2]!];
  const v = [m[0]! * x + m[3]! * y + m[6]! * z, m[1]! * x + m[4]! * y + m[7]! * z, m[2]! * x + m[5]! * y + m[8]! * z];
  const length = Math.hypot(v[0]!, v[1]!, v[2]!) * sign;
  if (length !== 0 && Number.isFinite(length)) for (let k = 0; k < 3; k++) to[o + k] = v[k]! / length;
}
