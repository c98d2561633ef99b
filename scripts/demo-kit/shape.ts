import { meshFromLists } from '@/core/shapes/mesh/build';
import type { PolyMesh, Slot } from '@/core/shapes/mesh/polyMesh';

export type Point = [x: number, y: number, z: number];

export interface Turn {
  move?: Point;
  /** Degrees about X, then Y, then Z. */
  turn?: Point;
  scale?: number | Point;
}

/** A small random source that gives the same numbers every time. */
export function seeded(seed: number): (from?: number, to?: number) => number {
  let state = seed >>> 0 || 1;
  return (from = 0, to = 1) => {
    state = (Math.imul(state, 1664525) + 1013904223) >>> 0;
    return from + ((state >>> 8) / 0x1000000) * (to - from);
  };
}

/** A model under construction: solids of quads and n-gons, each face with the role that it plays. Y up, metres. */
export class Shape {
  readonly positions: number[] = [];
  readonly faces: number[][] = [];
  readonly roles: string[] = [];
  private role = '';
  private moves: Turn[] = [];

  as(role: string, build: () => void): this {
    const before = this.role;
    this.role = role;
    build();
    this.role = before;
    return this;
  }

  at(move: Turn, build: () => void): this {
    this.moves.push(move);
    build();
    this.moves.pop();
    return this;
  }

  /** Repeats around the Y axis. */
  around(count: number, build: (index: number) => void, phase = 0): this {
    for (let i = 0; i < count; i++) this.at({ turn: [0, phase + (360 / count) * i, 0] }, () => build(i));
    return this;
  }

  point(p: Point): number {
    let q = p;
    for (let i = this.moves.length - 1; i >= 0; i--) q = applyTurn(q, this.moves[i]!);
    this.positions.push(...q);
    return this.positions.length / 3 - 1;
  }

  face(points: number[], role = this.role): void {
    this.faces.push(points);
    this.roles.push(role);
  }

  /** A box standing on y = 0, centred on x and z; the top may be narrower. */
  box(width: number, height: number, depth: number, { top = 1 }: { top?: number } = {}): this {
    const ring = (y: number, s: number) =>
      (
        [
          [-1, 1],
          [1, 1],
          [1, -1],
          [-1, -1],
        ] as const
      ).map(([x, z]) => this.point([(x * width * s) / 2, y, (z * depth * s) / 2]));
    this.loft([ring(0, 1), ring(height, top)]);
    return this;
  }

  /** Walls between rings of points (counter-clockwise from above), closed by n-gons. `roles`: of each wall band. */
  loft(rings: number[][], { bottom = true, top = true, roles = [] as string[] } = {}): void {
    for (let r = 0; r + 1 < rings.length; r++) {
      const [low, high] = [rings[r]!, rings[r + 1]!];
      const n = Math.max(low.length, high.length);
      for (let i = 0; i < n; i++) {
        const j = (i + 1) % n;
        const role = roles[r] || this.role;
        if (low.length === 1) this.face([low[0]!, high[j]!, high[i]!], role);
        else if (high.length === 1) this.face([low[i]!, low[j]!, high[0]!], role);
        else this.face([low[i]!, low[j]!, high[j]!, high[i]!], role);
      }
    }
    if (bottom && rings[0]!.length > 2) this.face([...rings[0]!].reverse(), roles[0] || this.role);
    if (top && rings.at(-1)!.length > 2) this.face(rings.at(-1)!, roles.at(-1) || this.role);
  }

  /** A body of revolution about Y. Profile: [radius, height] upward; radius 0 makes a tip. */
  lathe(
    profile: [radius: number, y: number][],
    sides: number,
    options: { bottom?: boolean; top?: boolean; roles?: string[]; phase?: number } = {},
  ): this {
    const phase = ((options.phase ?? 180 / sides) * Math.PI) / 180;
    const rings = profile.map(([radius, y]) =>
      radius === 0
        ? [this.point([0, y, 0])]
        : Array.from({ length: sides }, (_, i) => {
            const angle = phase + (i / sides) * 2 * Math.PI;
            return this.point([Math.sin(angle) * radius, y, Math.cos(angle) * radius]);
          }),
    );
    this.loft(rings, options);
    return this;
  }

  /** A beam from one point to another. */
  beam(from: Point, to: Point, thickness: number, { sides = 4, depth = thickness } = {}): this {
    const [dx, dy, dz] = [to[0] - from[0], to[1] - from[1], to[2] - from[2]];
    const length = Math.hypot(dx, dy, dz);
    const yaw = (Math.atan2(dx, dz) * 180) / Math.PI;
    const pitch = (Math.acos(dy / length) * 180) / Math.PI;
    return this.at({ move: from, turn: [pitch, yaw, 0] }, () => {
      if (sides === 4) this.box(thickness, length, depth);
      else
        this.lathe(
          [
            [thickness / 2, 0],
            [thickness / 2, length],
          ],
          sides,
        );
    });
  }

  /** A prism over an outline in x and y (counter-clockwise from the front), from z = -depth/2 to depth/2. */
  plate(outline: [x: number, y: number][], depth: number): this {
    const front = outline.map(([x, y]) => this.point([x, y, depth / 2]));
    const back = outline.map(([x, y]) => this.point([x, y, -depth / 2]));
    this.face(front);
    this.face([...back].reverse());
    for (let i = 0; i < outline.length; i++) {
      const j = (i + 1) % outline.length;
      this.face([front[j]!, front[i]!, back[i]!, back[j]!]);
    }
    return this;
  }

  /** A ring of round section about Y. */
  ring(radius: number, thickness: number, sides: number, section = 5): this {
    const circle = (i: number) =>
      Array.from({ length: section }, (_, k) => {
        const [a, b] = [(i / sides) * 2 * Math.PI, (k / section) * 2 * Math.PI];
        const r = radius + (Math.cos(b) * thickness) / 2;
        return this.point([Math.sin(a) * r, (Math.sin(b) * thickness) / 2, Math.cos(a) * r]);
      });
    const circles = Array.from({ length: sides }, (_, i) => circle(i));
    for (let i = 0; i < sides; i++)
      for (let k = 0; k < section; k++) {
        const [p, q] = [circles[i]!, circles[(i + 1) % sides]!];
        const j = (k + 1) % section;
        this.face([p[k]!, q[k]!, q[j]!, p[j]!]);
      }
    return this;
  }

  /** A boulder: a cube of 2 × 2 quads a side, drawn toward a ball and roughened, with a flat foot. */
  rock(size: Point, random: (from?: number, to?: number) => number, roughness = 0.16): this {
    const ids = new Map<string, number>();
    const corner = (x: number, y: number, z: number) => {
      const key = `${x},${y},${z}`;
      let id = ids.get(key);
      if (id === undefined) {
        const length = Math.hypot(x, y, z);
        const s = (0.55 + 0.45 / length) * (1 + random(-roughness, roughness));
        const foot = y < 0 ? 0.35 : 1;
        id = this.point([x * s * size[0] * 0.5, (y * s * 0.5 * foot + 0.2) * size[1], z * s * size[2] * 0.5]);
        ids.set(key, id);
      }
      return id;
    };
    const axes: [Point, Point, Point][] = [
      [
        [1, 0, 0],
        [0, 1, 0],
        [0, 0, 1],
      ],
      [
        [0, 1, 0],
        [0, 0, 1],
        [1, 0, 0],
      ],
      [
        [0, 0, 1],
        [1, 0, 0],
        [0, 1, 0],
      ],
    ];
    for (const [n, u, v] of axes)
      for (const side of [1, -1])
        for (let i = -1; i < 1; i++)
          for (let j = -1; j < 1; j++) {
            const at = (a: number, b: number) => corner(...([0, 1, 2].map((k) => n[k]! * side + u[k]! * a + v[k]! * b) as Point));
            const quad = [at(i, j), at(i + 1, j), at(i + 1, j + 1), at(i, j + 1)];
            this.face(side > 0 ? quad : quad.reverse());
          }
    return this;
  }

  mesh(slots?: { names: Record<string, Slot> }): PolyMesh {
    const list = slots ? Object.entries(slots.names) : [];
    const index = new Map(list.map(([role], i) => [role, i]));
    return meshFromLists({
      positions: this.positions,
      faces: this.faces,
      ...(slots && { slots: list.map(([, slot]) => slot), faceSlot: this.roles.map((r) => index.get(r) ?? 0) }),
      objects: ['model'],
    });
  }
}

function applyTurn([x, y, z]: Point, { move = [0, 0, 0], turn = [0, 0, 0], scale = 1 }: Turn): Point {
  const s = typeof scale === 'number' ? [scale, scale, scale] : scale;
  [x, y, z] = [x * s[0]!, y * s[1]!, z * s[2]!];
  const [a, b, c] = turn.map((d) => (d * Math.PI) / 180) as Point;
  [y, z] = [y * Math.cos(a) - z * Math.sin(a), y * Math.sin(a) + z * Math.cos(a)];
  [x, z] = [x * Math.cos(b) + z * Math.sin(b), -x * Math.sin(b) + z * Math.cos(b)];
  [x, y] = [x * Math.cos(c) - y * Math.sin(c), x * Math.sin(c) + y * Math.cos(c)];
  return [x + move[0], y + move[1], z + move[2]];
}
