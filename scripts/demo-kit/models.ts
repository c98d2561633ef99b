import { seeded, Shape, type Point } from './shape';

/** The things of Brindle Skerry, each a shape whose faces know what they are. */

export function lightTower(): Shape {
  const s = new Shape();
  const random = seeded(7);
  s.as('rock', () => {
    for (let i = 0; i < 11; i++) {
      const angle = (i / 11) * 360 + random(-8, 8);
      const size: Point = [random(1.6, 2.8), random(0.9, 1.7), random(1.5, 2.4)];
      s.at({ turn: [0, angle, 0] }, () =>
        s.at({ move: [0, -0.25, random(3.1, 3.9)], turn: [0, random(0, 90), 0] }, () => s.rock(size, random)),
      );
    }
  });
  s.as('plinth', () =>
    s.lathe([[3.1, 0], [3.1, 0.35], [2.75, 0.35], [2.75, 0.75]], 12),
  );
  const wall = ['wall', 'band', 'wall', 'wall', 'band', 'wall', 'wall'];
  const heights = [0.75, 2.6, 4.3, 5.6, 6.9, 8.7, 10.2, 11.6];
  s.as('wall', () =>
    s.lathe(
      heights.map((y): [number, number] => [2.5 - ((y - 0.75) / 10.85) * 0.85, y]),
      12,
      { roles: wall, bottom: false },
    ),
  );
  s.as('gallery', () => {
    s.lathe([[1.68, 11.45], [2.35, 12], [2.35, 12.22], [1.2, 12.22]], 12, { bottom: false, top: false });
    s.around(12, () => s.at({ move: [0, 11.1, 1.85], turn: [-28, 0, 0] }, () => s.box(0.14, 0.85, 0.16)), 15);
  });
  s.as('rail', () => {
    s.around(12, () => s.at({ move: [0, 12.2, 2.22] }, () => s.box(0.07, 0.95, 0.07)));
    for (const y of [12.65, 13.1]) s.at({ move: [0, y, 0] }, () => s.ring(2.22, 0.085, 12, 4));
  });
  s.as('lantern frame', () => {
    s.lathe([[1.25, 12.22], [1.25, 12.95], [1.32, 12.95], [1.32, 13.05], [1.1, 13.05]], 8, { bottom: false, top: false });
    s.around(8, () => s.at({ move: [0, 13.05, 1.16] }, () => s.box(0.1, 1.65, 0.1)), 22.5);
  });
  s.as('glass', () =>
    s.lathe([[1.09, 13.05], [1.09, 13.9], [1.09, 14.7]], 8, { bottom: false, top: false }),
  );
  s.as('dome', () => {
    s.lathe([[1.5, 14.62], [1.5, 14.78], [1.32, 15.1], [0.95, 15.5], [0.42, 15.78], [0.2, 15.85]], 12, { roles: ['dome rim'] });
    s.lathe([[0.2, 15.85], [0.2, 16.05]], 8, { bottom: false });
  });
  s.as('finial', () =>
    s.lathe([[0.12, 16.05], [0.24, 16.2], [0.24, 16.36], [0.08, 16.5], [0.05, 17.4], [0, 17.55]], 8, { bottom: false }),
  );
  s.as('door frame', () =>
    s.at({ move: [0, 0.75, 2.42], turn: [-4, 0, 0] }, () =>
      s.plate([[-0.66, 0], [0.66, 0], [0.66, 1.75], [0.36, 2.1], [-0.36, 2.1], [-0.66, 1.75]], 0.3),
    ),
  );
  s.as('door', () =>
    s.at({ move: [0, 0.76, 2.5], turn: [-4, 0, 0] }, () =>
      s.plate([[-0.48, 0], [0.48, 0], [0.48, 1.62], [0.27, 1.88], [-0.27, 1.88], [-0.48, 1.62]], 0.3),
    ),
  );
  s.as('plinth', () => {
    s.at({ move: [0, 0, 3.15] }, () => s.box(1.7, 0.5, 0.9));
    s.at({ move: [0, 0, 3.75] }, () => s.box(1.7, 0.25, 0.6));
  });
  const window = (y: number, angle: number) => {
    const r = (2.5 - ((y - 0.75) / 10.85) * 0.85) * Math.cos(Math.PI / 12);
    s.at({ turn: [0, angle, 0] }, () => {
      s.as('window frame', () => s.at({ move: [0, y - 0.08, r], turn: [-4, 0, 0] }, () => s.box(0.66, 1.02, 0.2)));
      s.as('window', () => s.at({ move: [0, y, r + 0.04], turn: [-4, 0, 0] }, () => s.box(0.44, 0.82, 0.2)));
      s.as('window frame', () => s.at({ move: [0, y - 0.18, r + 0.08], turn: [-4, 0, 0] }, () => s.box(0.8, 0.1, 0.32)));
    });
  };
  window(4.4, 0);
  window(7.4, 30);
  window(9.2, -30);
  window(5.9, 180);
  return s;
}

export function keepersCottage(): Shape {
  const s = new Shape();
  // The body is one n-gon wall with gables; the floor is left open, as houses mostly are.
  s.as('wall', () => {
    const outline: [number, number][] = [[-2.4, 0.3], [2.4, 0.3], [2.4, 2.7], [0, 4.5], [-2.4, 2.7]];
    const front = outline.map(([x, y]) => s.point([x, y, 3.4]));
    const back = outline.map(([x, y]) => s.point([x, y, -3.4]));
    s.face(front);
    s.face([...back].reverse());
    s.face([front[1]!, back[1]!, back[2]!, front[2]!]);
    s.face([back[0]!, front[0]!, front[4]!, back[4]!]);
  });
  s.as('plinth', () => s.box(5.1, 0.36, 7.1));
  s.as('roof', () => {
    for (const side of [1, -1])
      for (let row = 0; row < 4; row++) {
        const t0 = row / 4 - 0.02;
        // The two slopes end short of each other, under the ridge.
        const t1 = (row + 1) / 4 - (row === 3 ? 0.012 : 0);
        const at = (t: number, lift: number): [number, number] => [side * 2.85 * (1 - t), 2.42 + 2.16 * t + lift];
        for (let k = 0; k < 5; k++) {
          const z0 = -3.75 + k * 1.5;
          const [a, b] = [at(t0, 0.2), at(t1, 0.1)];
          const points: Point[] = [
            [a[0], a[1], z0],
            [a[0], a[1], z0 + 1.46],
            [b[0], b[1], z0 + 1.46],
            [b[0], b[1], z0],
          ];
          const lowered = points.map(([x, y, z]): Point => [x, y - 0.11, z]);
          const ids = [...points, ...lowered].map((p) => s.point(p));
          const quads = [[0, 1, 2, 3], [7, 6, 5, 4], [4, 5, 1, 0], [6, 7, 3, 2], [5, 6, 2, 1], [7, 4, 0, 3]];
          for (const q of quads) s.face((side > 0 ? [...q].reverse() : q).map((i) => ids[i]!));
        }
      }
  });
  s.as('ridge', () => s.at({ move: [0, 4.6, 0] }, () => s.box(0.36, 0.16, 7.7, { top: 0.85 })));
  s.as('chimney', () => {
    s.at({ move: [0.9, 3.2, -2.2] }, () => s.box(0.85, 2.1, 0.75));
    s.at({ move: [0.9, 5.3, -2.2] }, () => s.box(1.02, 0.2, 0.92));
  });
  s.as('pot', () => {
    for (const x of [0.7, 1.1])
      s.at({ move: [x, 5.5, -2.2] }, () =>
        s.lathe([[0.13, 0], [0.11, 0.36], [0.15, 0.36], [0.15, 0.44]], 6),
      );
  });
  s.as('door frame', () => s.at({ move: [0, 0.3, 3.42] }, () => s.box(1.3, 2.25, 0.16)));
  s.as('door', () => {
    s.at({ move: [0, 0.3, 3.48] }, () => s.box(1.02, 2.08, 0.14));
    for (const x of [-0.26, 0.26]) s.at({ move: [x, 0.55, 3.53] }, () => s.box(0.34, 0.7, 0.1));
    for (const x of [-0.26, 0.26]) s.at({ move: [x, 1.45, 3.53] }, () => s.box(0.34, 0.7, 0.1));
  });
  s.as('brass', () =>
    s.at({ move: [0.4, 1.3, 3.58] }, () =>
      s.lathe([[0.03, 0], [0.06, 0.04], [0.06, 0.1], [0, 0.13]], 6),
    ),
  );
  s.as('plinth', () => s.at({ move: [0, 0, 3.9] }, () => s.box(1.6, 0.24, 0.8)));
  const window = (move: Point, angle: number) =>
    s.at({ turn: [0, angle, 0] }, () =>
      s.at({ move }, () => {
        s.as('window frame', () => s.box(1.0, 1.15, 0.12));
        s.as('window', () => {
          for (const x of [-0.22, 0.22]) for (const y of [0.1, 0.61]) s.at({ move: [x, y, 0.03] }, () => s.box(0.38, 0.45, 0.12));
        });
        s.as('shutter', () => {
          for (const x of [-0.76, 0.76]) s.at({ move: [x, -0.03, 0.02] }, () => s.box(0.46, 1.21, 0.1));
        });
        s.as('sill', () => s.at({ move: [0, -0.12, 0.1] }, () => s.box(1.2, 0.12, 0.26)));
      }),
    );
  window([-1.55, 1.15, 3.42], 0);
  window([1.55, 1.15, 3.42], 0);
  for (const z of [-1.6, 1.6]) {
    window([z, 1.15, 2.42], 90);
    window([z, 1.15, 2.42], -90);
  }
  window([0, 1.15, 3.42], 180);
  // Two things go wrong in real models, and do here: a face that looks the wrong way, and one that nobody can see.
  const shutter = s.roles.indexOf('shutter');
  s.faces[shutter]!.reverse();
  s.as('wall', () => s.face([s.point([-2.2, 2.6, -2.4]), s.point([2.2, 2.6, -2.4]), s.point([2.2, 2.6, 2.4]), s.point([-2.2, 2.6, 2.4])]));
  return s;
}

export function landingJetty(): Shape {
  const s = new Shape();
  const random = seeded(21);
  const length = 13;
  s.as('board', () => {
    for (let i = 0; i < 26; i++)
      s.at(
        { move: [random(-0.05, 0.05), 1.5 + random(-0.012, 0.012), -length / 2 + 0.25 + i * 0.5], turn: [0, random(-1.2, 1.2), 0] },
        () => s.box(2.7 + random(-0.12, 0.14), 0.1, 0.44),
      );
  });
  s.as('beam', () => {
    for (const x of [-1.05, 1.05]) s.at({ move: [x, 1.24, 0] }, () => s.box(0.2, 0.26, length + 0.2));
  });
  const rows = [-5.8, -2.9, 0, 2.9, 5.8];
  for (const z of rows) {
    for (const x of [-1.3, 1.3]) {
      const tall = x > 0 || Math.abs(z) > 5 ? 2.35 : 1.5;
      s.as('pile', () =>
        s.at({ move: [x, -1.4, z], turn: [0, 0, x * 2] }, () =>
          s.lathe([[0.2, 0], [0.17, 1.4 + tall]], 8, { top: tall < 2 }),
        ),
      );
      if (tall > 2)
        s.as('pile cap', () =>
          s.at({ move: [x * 0.955, tall - 0.02, z] }, () =>
            s.lathe([[0.2, 0], [0.2, 0.08], [0, 0.2]], 8),
          ),
        );
    }
    s.as('beam', () => s.beam([-1.5, 1.12, z], [1.5, 1.12, z], 0.22));
    s.as('brace', () => {
      s.beam([-1.2, -0.5, z], [1.2, 0.9, z], 0.12);
      s.beam([1.2, -0.5, z + 0.13], [-1.2, 0.9, z + 0.13], 0.12);
    });
  }
  s.as('rope', () => {
    for (let i = 0; i + 1 < rows.length; i++) {
      const [a, b] = [rows[i]!, rows[i + 1]!];
      const sag = (t: number): Point => [1.26, 2.12 - 0.42 * 4 * t * (1 - t), a + (b - a) * t];
      for (let k = 0; k < 4; k++) s.beam(sag(k / 4), sag((k + 1) / 4), 0.075, { sides: 5 });
    }
    for (let k = 0; k < 3; k++) s.at({ move: [-0.55, 1.65 + k * 0.1, -4.9] }, () => s.ring(0.42 - k * 0.04, 0.11, 10, 5));
  });
  s.as('ladder', () => {
    for (const z of [-0.3, 0.3]) s.beam([-1.42, -1.1, z + 1.4], [-1.42, 1.75, z + 1.4], 0.09);
    for (let y = -0.8; y < 1.6; y += 0.38) s.beam([-1.42, y, 1.1], [-1.42, y, 1.7], 0.06);
  });
  s.as('bollard', () => {
    for (const z of [-4, 4])
      s.at({ move: [-0.95, 1.6, z] }, () =>
        s.lathe([[0.2, 0], [0.15, 0.1], [0.13, 0.32], [0.22, 0.36], [0.22, 0.44], [0.1, 0.5]], 8),
      );
  });
  return s;
}

export function channelBuoy(): Shape {
  const s = new Shape();
  s.as('hull', () =>
    s.lathe([[0.55, -0.5], [1.05, -0.15], [1.2, 0.15], [1.2, 0.5], [0.95, 0.7], [0.4, 0.78]], 12, { roles: ['below water', 'below water', 'hull', 'hull lit', 'hull lit'] }),
  );
  s.as('fender', () => s.at({ move: [0, 0.32, 0] }, () => s.ring(1.22, 0.18, 12, 6)));
  s.as('strut', () => {
    s.around(4, () => s.beam([0, 0.6, 0.85], [0, 2.75, 0.28], 0.1), 45);
    for (const [y, r] of [[1.25, 0.66], [1.95, 0.48]] as const)
      s.at({ move: [0, y, 0] }, () => s.ring(r, 0.07, 8, 4));
  });
  s.as('cone', () =>
    s.lathe([[0.5, 0.78], [0.36, 1.5], [0.36, 1.62], [0.14, 2.4]], 8, { bottom: false }),
  );
  s.as('platform', () =>
    s.lathe([[0.22, 2.68], [0.44, 2.75], [0.44, 2.84], [0.2, 2.84]], 8),
  );
  s.as('lamp', () =>
    s.lathe([[0.15, 2.84], [0.2, 2.94], [0.2, 3.14], [0.15, 3.24]], 8),
  );
  s.as('lamp cap', () =>
    s.lathe([[0.24, 3.24], [0.24, 3.3], [0.08, 3.42], [0, 3.5]], 8),
  );
  s.as('topmark', () => {
    s.at({ move: [0, 3.45, 0] }, () => s.box(0.05, 0.5, 0.05));
    s.at({ move: [0, 3.8, 0] }, () =>
      s.lathe([[0.3, 0], [0, 0.55]], 8),
    );
  });
  s.as('ring', () => s.around(2, () => s.at({ move: [0, 0.78, 0.72], turn: [90, 0, 0] }, () => s.ring(0.14, 0.06, 8, 4)), 90));
  s.as('weight', () =>
    s.lathe([[0.16, -1.5], [0.3, -1.35], [0.3, -1.1], [0.12, -0.95], [0.12, -0.5]], 8),
  );
  return s;
}

export function fogBell(): Shape {
  const s = new Shape();
  s.as('base', () => {
    s.box(2.8, 0.22, 1.9);
    s.at({ move: [0, 0.22, 0] }, () => s.box(2.5, 0.14, 1.6));
  });
  s.as('frame', () => {
    for (const x of [-1, 1]) {
      for (const z of [-0.6, 0.6]) s.beam([x * 1.1, 0.3, z], [x * 0.86, 2.9, z * 0.24], 0.17);
      s.beam([x * 1.03, 1.1, -0.46], [x * 1.03, 1.1, 0.46], 0.12);
      s.beam([x * 0.94, 2.05, -0.3], [x * 0.94, 2.05, 0.3], 0.12);
      s.beam([x * 0.9, 2.2, 0], [x * 0.42, 2.85, 0], 0.11);
    }
    s.beam([-1.25, 2.85, 0], [1.25, 2.85, 0], 0.2, { depth: 0.24 });
  });
  s.as('roof', () => {
    for (const z of [-1, 1])
      for (let k = 0; k < 5; k++) s.at({ move: [-1.2 + k * 0.6, 3.12, z * 0.3], turn: [z * 34, 0, 0] }, () => s.box(0.58, 0.06, 0.86));
    s.at({ move: [0, 3.33, 0] }, () => s.box(3.06, 0.09, 0.16));
  });
  s.as('bell', () =>
    s.lathe([[0.66, 1.2], [0.7, 1.28], [0.56, 1.5], [0.44, 1.85], [0.4, 2.2], [0.28, 2.4], [0.1, 2.46]], 12, { bottom: false, roles: ['bell lip', 'bell lip'] }),
  );
  s.as('bell inside', () => {
    const profile: [number, number][] = [[0.06, 2.36], [0.24, 2.32], [0.36, 2.1], [0.5, 1.5], [0.66, 1.2]];
    s.lathe(profile, 12, { bottom: false, top: false });
  });
  s.as('iron', () => {
    s.at({ move: [0, 2.46, 0] }, () => s.box(0.12, 0.34, 0.12));
    s.beam([0, 2.3, 0], [0, 1.25, 0], 0.06, { sides: 6 });
    s.at({ move: [0, 1.05, 0] }, () =>
      s.lathe([[0.06, 0], [0.13, 0.08], [0.13, 0.2], [0.05, 0.28]], 8),
    );
    s.beam([0.98, 1.6, 0.0], [0.66, 1.6, 0], 0.1);
    s.at({ move: [0.62, 1.48, 0], turn: [0, 0, 0] }, () => s.box(0.16, 0.24, 0.2));
  });
  s.as('bolt', () => {
    for (const x of [-1, 1])
      for (const z of [-0.78, 0.78])
        s.at({ move: [x * 1.22, 0.22, z] }, () =>
          s.lathe([[0.07, 0], [0.07, 0.16], [0.04, 0.2]], 6),
        );
  });
  return s;
}

export function crabPots(): Shape {
  const s = new Shape();
  const pot = (move: Point, angle: number) =>
    s.at({ move, turn: [0, angle, 0] }, () => {
      s.as('pot base', () => {
        for (let k = 0; k < 5; k++) s.at({ move: [0, 0, -0.36 + k * 0.18] }, () => s.box(1.1, 0.05, 0.1));
        for (const x of [-0.5, 0, 0.5]) s.at({ move: [x, 0.05, 0] }, () => s.box(0.07, 0.06, 0.9));
      });
      s.as('hoop', () => {
        for (const x of [-0.5, 0, 0.5])
          for (let k = 0; k < 6; k++) {
            const at = (i: number): Point => [x, 0.1 + Math.sin((i / 6) * Math.PI) * 0.46, -Math.cos((i / 6) * Math.PI) * 0.42];
            s.beam(at(k), at(k + 1), 0.06);
          }
      });
      s.as('slat', () => {
        for (let k = 1; k < 6; k++) {
          const a = (k / 6) * Math.PI;
          s.beam([-0.56, 0.1 + Math.sin(a) * 0.5, -Math.cos(a) * 0.46], [0.56, 0.1 + Math.sin(a) * 0.5, -Math.cos(a) * 0.46], 0.045);
        }
      });
      s.as('net', () => {
        for (const x of [-0.44, 0.44]) {
          const rim = Array.from({ length: 7 }, (_, i) =>
            s.point([x, 0.1 + Math.sin((i / 6) * Math.PI) * 0.42, -Math.cos((i / 6) * Math.PI) * 0.38]),
          );
          s.face(x > 0 ? rim : [...rim].reverse());
        }
      });
    });
  pot([-0.66, 0, 0.05], 4);
  pot([0.68, 0, -0.08], -7);
  pot([0.05, 0.62, 0], 12);
  s.as('float', () => {
    s.at({ move: [1.15, 0.14, 0.75], turn: [82, 30, 0] }, () =>
      s.lathe([[0.06, -0.26], [0.15, -0.16], [0.15, 0.12], [0.06, 0.22], [0.03, 0.42], [0, 0.42]], 8),
    );
    s.at({ move: [-0.5, 0.13, 0.85], turn: [86, -50, 0] }, () =>
      s.lathe([[0.05, -0.22], [0.13, -0.14], [0.13, 0.1], [0.05, 0.2], [0.03, 0.38], [0, 0.38]], 8),
    );
  });
  s.as('rope', () => {
    for (let k = 0; k < 3; k++) s.at({ move: [0.35, 0.05 + k * 0.075, 0.85] }, () => s.ring(0.26 - k * 0.035, 0.08, 9, 4));
  });
  return s;
}

/** The board of the tide gauge, in metres: a numeral has a square panel. */
export const tideBoard = { left: -0.33, foot: 1.05, width: 0.66, panel: 0.7 };

export function tideGauge(): Shape {
  const s = new Shape();
  s.as('pile', () =>
    s.at({ move: [0, -0.6, 0] }, () =>
      s.lathe([[0.24, 0], [0.19, 4.9]], 10),
    ),
  );
  s.as('cap', () =>
    s.at({ move: [0, 4.28, 0] }, () =>
      s.lathe([[0.25, 0], [0.25, 0.08], [0.14, 0.2], [0, 0.24]], 10),
    ),
  );
  // The board's front is a row of panels, so that its numerals can be laid out metre by metre.
  const { left, foot, width, panel } = tideBoard;
  const panels = 4;
  const ring = (y: number, z: number) => [s.point([left, y, z]), s.point([left + width, y, z])];
  const front = Array.from({ length: panels + 1 }, (_, k) => ring(foot + k * panel, 0.36));
  const back = Array.from({ length: panels + 1 }, (_, k) => ring(foot + k * panel, 0.28));
  for (let k = 0; k < panels; k++) {
    const [a, b, c, d] = [front[k]!, front[k + 1]!, back[k]!, back[k + 1]!];
    s.face([a[0]!, a[1]!, b[1]!, b[0]!], 'numerals');
    s.face([c[1]!, c[0]!, d[0]!, d[1]!], 'board');
    s.face([a[1]!, c[1]!, d[1]!, b[1]!], 'board');
    s.face([c[0]!, a[0]!, b[0]!, d[0]!], 'board');
  }
  s.face([front[panels]![0]!, front[panels]![1]!, back[panels]![1]!, back[panels]![0]!], 'board');
  s.face([back[0]![0]!, back[0]![1]!, front[0]![1]!, front[0]![0]!], 'board');
  s.as('bracket', () => {
    for (const y of [1.3, 2.45, 3.6]) {
      s.at({ move: [0, y, 0] }, () => s.ring(0.25, 0.09, 10, 4));
      s.beam([-0.28, y, 0.28], [0.28, y, 0.28], 0.08);
    }
  });
  s.as('rung', () => {
    for (let y = 0.4; y < 4; y += 0.45) s.beam([-0.32, y, -0.12], [0.32, y, -0.12], 0.06);
  });
  s.as('rock', () => {
    const random = seeded(11);
    for (const [x, z, w] of [[0, 0, 1.5], [0.7, 0.35, 1], [-0.65, -0.3, 1.1], [-0.35, 0.75, 0.8]] as const)
      s.at({ move: [x, -0.55, z], turn: [0, x * 120, 0] }, () => s.rock([w, w * 0.6, w * 0.9], random));
  });
  return s;
}

/** Two posts with a board between them, notes pinned to it, under a small roof. */
export function noticeBoard(): Shape {
  const s = new Shape();
  s.as('post', () => {
    for (const x of [-0.86, 0.86])
      s.at({ move: [x, -0.3, 0] }, () => s.box(0.13, 2.5, 0.13));
  });
  s.as('board', () => s.at({ move: [0, 0.86, 0] }, () => s.box(1.6, 1.06, 0.06)));
  s.as('frame', () => {
    s.at({ move: [0, 0.78, 0] }, () => s.box(1.72, 0.09, 0.12));
    s.at({ move: [0, 1.9, 0] }, () => s.box(1.72, 0.09, 0.12));
  });
  s.as('note', () => {
    const notes: [x: number, y: number, w: number, h: number][] = [[-0.52, 1.34, 0.36, 0.46], [-0.04, 1.16, 0.4, 0.56], [0.48, 1.42, 0.34, 0.34], [-0.5, 0.98, 0.3, 0.26], [0.5, 1.02, 0.36, 0.28]];
    for (const [x, y, w, h] of notes)
      s.at({ move: [x, y, 0.036] }, () => s.box(w, h, 0.014));
  });
  s.as('roof', () => {
    for (const side of [1, -1])
      s.at({ move: [0, 2.3, 0.14 * side], turn: [33 * side, 0, 0] }, () => s.box(2.1, 0.06, 0.42));
  });
  return s;
}

export function skerryRocks(): Shape {
  const s = new Shape();
  const random = seeded(5);
  s.as('rock', () => {
    const boulders: [number, number, number, number][] = [[0, 0, 4.6, 2.9], [2.7, 0.9, 3, 1.8], [-2.6, -0.6, 3.2, 2.1], [0.8, -2.3, 2.8, 1.5], [-1.1, 2.3, 2.6, 1.3], [4.3, -0.8, 1.7, 0.9], [-4.2, 1.2, 1.9, 1], [2.2, 2.8, 1.5, 0.7], [-3, -2.6, 1.6, 0.8], [5.2, 1.4, 1, 0.5], [-5.1, -0.9, 1.1, 0.55]];
    for (const [x, z, w, h] of boulders)
      s.at({ move: [x, 0, z], turn: [0, random(0, 360), 0] }, () => s.rock([w, h * 1.25, w * random(0.75, 1)], random, 0.2));
  });
  s.as('weed', () => {
    for (let i = 0; i < 7; i++) {
      const a = random(0, 6.28);
      const r = random(2.6, 4.6);
      s.at({ move: [Math.sin(a) * r, 0.02, Math.cos(a) * r], turn: [0, random(0, 360), 0] }, () =>
        s.lathe([[0.4, 0], [0.28, 0.16], [0, 0.24]], 5, { bottom: false }),
      );
    }
  });
  return s;
}
