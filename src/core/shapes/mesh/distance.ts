type Point = readonly number[];

const sub = (p: Point, q: Point) => [p[0]! - q[0]!, p[1]! - q[1]!, p[2]! - q[2]!];
const dot = (p: Point, q: Point) => p[0]! * q[0]! + p[1]! * q[1]! + p[2]! * q[2]!;
const along = (p: Point, d: Point, t: number) => [p[0]! + d[0]! * t, p[1]! + d[1]! * t, p[2]! + d[2]! * t];
const distance = (p: Point, q: Point) => Math.hypot(p[0]! - q[0]!, p[1]! - q[1]!, p[2]! - q[2]!);

/** Metres from a point to the line between two others. */
export function distanceToLine(point: Point, from: Point, to: Point): number {
  const line = sub(to, from);
  const t = Math.max(0, Math.min(1, dot(line, sub(point, from)) / (dot(line, line) || 1)));
  return distance(point, along(from, line, t));
}

/** Metres from a point to a triangle. Method: C. Ericson, Real-Time Collision Detection, 5.1.5. */
export function distanceToTriangle(p: Point, a: Point, b: Point, c: Point): number {
  const [ab, ac] = [sub(b, a), sub(c, a)];
  const [d1, d2] = [dot(ab, sub(p, a)), dot(ac, sub(p, a))];
  if (d1 <= 0 && d2 <= 0) return distance(p, a);
  const [d3, d4] = [dot(ab, sub(p, b)), dot(ac, sub(p, b))];
  if (d3 >= 0 && d4 <= d3) return distance(p, b);
  const vc = d1 * d4 - d3 * d2;
  if (vc <= 0 && d1 >= 0 && d3 <= 0) return distance(p, along(a, ab, d1 / (d1 - d3)));
  const [d5, d6] = [dot(ab, sub(p, c)), dot(ac, sub(p, c))];
  if (d6 >= 0 && d5 <= d6) return distance(p, c);
  const vb = d5 * d2 - d1 * d6;
  if (vb <= 0 && d2 >= 0 && d6 <= 0) return distance(p, along(a, ac, d2 / (d2 - d6)));
  const va = d3 * d6 - d5 * d4;
  if (va <= 0 && d4 - d3 >= 0 && d5 - d6 >= 0) return distance(p, along(b, sub(c, b), (d4 - d3) / (d4 - d3 + d5 - d6)));
  const whole = va + vb + vc;
  return distance(p, along(along(a, ab, vb / whole), ac, vc / whole));
}
