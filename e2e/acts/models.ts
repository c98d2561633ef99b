import { Shape, type Point } from '../../scripts/demo-kit/shape';

/** A model of a job: its file, and which piece each of its faces belongs to. */
export interface JobModel {
  file: string;
  obj: string;
  positions: readonly number[];
  faces: readonly (readonly number[])[];
  pieces: readonly string[];
}

/** `objects`: each piece is an object of its own in the file. */
function modelOf(file: string, build: (shape: Shape) => void, objects = false): JobModel {
  const shape = new Shape();
  build(shape);
  const { positions, faces, roles } = shape;
  const lines = [`o ${file}`];
  for (let i = 0; i < positions.length; i += 3) lines.push(`v ${[0, 1, 2].map((k) => positions[i + k]!.toFixed(5)).join(' ')}`);
  let last = '';
  faces.forEach((face, f) => {
    if (objects && roles[f] !== last) lines.push(`o ${(last = roles[f]!)}`);
    lines.push(`f ${face.map((v) => v + 1).join(' ')}`);
  });
  return { file: `${file}.obj`, obj: lines.join('\n') + '\n', positions, faces, pieces: roles };
}

const boxAt = (s: Shape, piece: string, move: Point, size: Point) => s.as(piece, () => s.at({ move }, () => s.box(...size)));
/** On both sides of the middle, seen from the front. */
const pairAt = (s: Shape, piece: string, [x, y, z]: Point, size: Point) => {
  boxAt(s, `${piece} left`, [-x, y, z], size);
  boxAt(s, `${piece} right`, [x, y, z], size);
};

export const flyingBoat = modelOf('flying-boat', (s) => {
  s.as('hull', () => s.at({ turn: [90, 0, 0], move: [0, 0.6, -2] }, () => s.lathe([[0.25, 0], [0.6, 1], [0.55, 2.6], [0.15, 4]], 8))); // prettier-ignore
  boxAt(s, 'wing', [0, 1.4, 0], [6, 0.16, 1]);
  boxAt(s, 'tail', [0, 1.05, -1.7], [1.8, 0.1, 0.5]);
  boxAt(s, 'fin', [0, 1.2, -1.8], [0.1, 0.8, 0.5]);
  pairAt(s, 'float', [2.2, 0, 0], [0.3, 0.35, 1.2]);
});

export const fence = (posts: number, file: string) =>
  modelOf(
    file,
    (s) => {
      s.as('posts', () => {
        for (let i = 0; i < posts; i++) s.at({ move: [i * 1.2, 0, 0] }, () => s.box(0.16, 1.2, 0.16, { top: 0.7 }));
      });
      s.as('rails', () => {
        for (let i = 0; i + 1 < posts; i++)
          for (const y of [0.35, 0.8]) s.at({ move: [(i + 0.5) * 1.2, y, 0.12] }, () => s.box(1.16, 0.12, 0.06));
      });
    },
    true,
  );

export const cap = modelOf('keepers-cap', (s) => {
  s.as('crown', () => s.lathe([[0.5, 0.1], [0.56, 0.42], [0.3, 0.55]], 12)); // prettier-ignore
  s.as('band', () => s.lathe([[0.52, 0], [0.52, 0.1]], 12)); // prettier-ignore
  boxAt(s, 'peak', [0, -0.02, 0.62], [0.6, 0.05, 0.4]);
});

const keeperPieces = (s: Shape) => {
  boxAt(s, 'head', [0, 1.5, 0], [0.34, 0.36, 0.34]);
  boxAt(s, 'coat', [0, 0.8, 0], [0.6, 0.68, 0.34]);
  pairAt(s, 'sleeve', [0.42, 0.78, 0], [0.2, 0.68, 0.24]);
  pairAt(s, 'trousers', [0.16, 0.2, 0], [0.24, 0.58, 0.26]);
  pairAt(s, 'boot', [0.16, 0, 0.06], [0.26, 0.18, 0.4]);
};
export const keeper = modelOf('keeper', keeperPieces);

export const keeperInOilskins = modelOf('keeper-in-oilskins', (s) => {
  keeperPieces(s);
  boxAt(s, 'hat', [0, 1.88, 0], [0.5, 0.16, 0.5]);
  boxAt(s, 'beard', [0, 1.46, 0.2], [0.26, 0.16, 0.08]);
  boxAt(s, 'belt', [0, 0.86, 0.02], [0.62, 0.08, 0.4]);
  boxAt(s, 'buckle', [0, 0.85, 0.24], [0.12, 0.1, 0.03]);
});

export const harbourMaster = modelOf('harbour-master', (s) => {
  keeperPieces(s);
  boxAt(s, 'hat', [0, 1.88, 0], [0.5, 0.16, 0.5]);
  boxAt(s, 'badge', [0, 1.92, 0.265], [0.12, 0.1, 0.02]);
  boxAt(s, 'beard', [0, 1.46, 0.2], [0.26, 0.16, 0.08]);
  boxAt(s, 'belt', [0, 0.86, 0.02], [0.62, 0.08, 0.4]);
  boxAt(s, 'buckle', [0, 0.85, 0.24], [0.12, 0.1, 0.03]);
  boxAt(s, 'collar', [0, 1.37, 0.02], [0.44, 0.1, 0.4]);
  pairAt(s, 'hand', [0.42, 0.6, 0], [0.16, 0.16, 0.18]);
  pairAt(s, 'cuff', [0.42, 0.8, 0], [0.23, 0.07, 0.27]);
  boxAt(s, 'lantern', [0.66, 0.42, 0.2], [0.2, 0.3, 0.2]);
});

/** One connected mug: its inside and its handle are parts of the same surface. */
export const mug = modelOf('mug', (s) => {
  const sides = 8;
  const ring = (r: number, y: number) =>
    Array.from({ length: sides }, (_, i) =>
      s.point([Math.sin(((i + 0.5) / sides) * 2 * Math.PI) * r, y * 0.7, Math.cos(((i + 0.5) / sides) * 2 * Math.PI) * r]),
    );
  const outer = [ring(0.42, 0), ring(0.44, 0.18), ring(0.45, 0.36), ring(0.45, 0.64), ring(0.45, 0.84), ring(0.45, 1)];
  const inner = [ring(0.38, 1), ring(0.36, 0.3), ring(0.2, 0.12)];
  s.as('body', () => {
    for (let r = 0; r + 1 < outer.length; r++)
      for (let i = 0; i < sides; i++) {
        const j = (i + 1) % sides;
        // Where the handle grows out, the wall is open.
        if (i === 1 && (r === 1 || r === 3)) continue;
        s.face([outer[r]![i]!, outer[r]![j]!, outer[r + 1]![j]!, outer[r + 1]![i]!]);
      }
    s.face([...outer[0]!].reverse());
    for (let i = 0; i < sides; i++) s.face([outer[5]![i]!, outer[5]![(i + 1) % sides]!, inner[0]![(i + 1) % sides]!, inner[0]![i]!]);
  });
  s.as('inside', () => {
    for (const [up, down] of [inner.slice(0, 2), inner.slice(1)] as [number[], number[]][])
      for (let i = 0; i < sides; i++) s.face([up[i]!, up[(i + 1) % sides]!, down[(i + 1) % sides]!, down[i]!]);
    s.face(inner[2]!);
  });
  s.as('handle', () => {
    const [i, j] = [1, 2];
    const away = (v: number, by: number, drop: number) =>
      s.point([s.positions[v * 3]! + by * 1, s.positions[v * 3 + 1]! + drop, s.positions[v * 3 + 2]! * 0.4]);
    const [low, lowUp, highDown, high] = outer.slice(1, 5).map((r) => [r[i]!, r[j]!] as const) as [
      [number, number],
      [number, number],
      [number, number],
      [number, number],
    ];
    const out = [
      [away(low[0], 0.35, 0.05), away(low[1], 0.35, 0.05)],
      [away(lowUp[0], 0.2, 0.02), away(lowUp[1], 0.2, 0.02)],
      [away(highDown[0], 0.2, -0.02), away(highDown[1], 0.2, -0.02)],
      [away(high[0], 0.35, -0.05), away(high[1], 0.35, -0.05)],
    ] as [number, number][];
    const strip = (rows: (readonly [number, number])[]) => {
      for (let k = 0; k + 1 < rows.length; k++) s.face([rows[k]![0], rows[k]![1], rows[k + 1]![1], rows[k + 1]![0]]);
    };
    // Around the outside, back along the inside, and the two cheeks.
    strip([low, out[0]!, out[3]!, high]);
    strip([highDown, out[2]!, out[1]!, lowUp]);
    for (const k of [0, 1] as const) {
      const cheek = (a: number, b: number, c: number, d: number) => s.face(k === 1 ? [a, b, c, d] : [d, c, b, a]);
      cheek(lowUp[k], out[1]![k], out[0]![k], low[k]);
      cheek(out[1]![k], out[2]![k], out[3]![k], out[0]![k]);
      cheek(high[k], out[3]![k], out[2]![k], highDown[k]);
    }
  });
});

/** Half a barrel vault: five flat faces over a half circle, each its own crease. */
export const halfBarrel = modelOf('half-barrel', (s) => {
  const at = (i: number, z: number) => s.point([Math.cos((i / 5) * Math.PI), Math.sin((i / 5) * Math.PI), z]);
  const front = Array.from({ length: 6 }, (_, i) => at(i, 1));
  const back = Array.from({ length: 6 }, (_, i) => at(i, -1));
  for (let i = 0; i < 5; i++) s.as(`stave ${i + 1}`, () => s.face([front[i]!, back[i]!, back[i + 1]!, front[i + 1]!]));
});

/** A goat of twelve boxes. */
export const goat = modelOf('goat', (s) => {
  boxAt(s, 'body', [0, 0.6, 0], [0.6, 0.55, 1.2]);
  boxAt(s, 'neck', [0, 0.95, 0.65], [0.3, 0.4, 0.3]);
  boxAt(s, 'head', [0, 1.3, 0.75], [0.35, 0.35, 0.45]);
  boxAt(s, 'muzzle', [0, 1.32, 1.05], [0.2, 0.2, 0.15]);
  boxAt(s, 'tail', [0, 1, -0.7], [0.12, 0.3, 0.12]);
  boxAt(s, 'beard', [0, 1.1, 1], [0.1, 0.2, 0.08]);
  pairAt(s, 'horn', [0.12, 1.66, 0.65], [0.08, 0.3, 0.08]);
  pairAt(s, 'front leg', [0.2, 0, 0.45], [0.16, 0.6, 0.16]);
  pairAt(s, 'back leg', [0.2, 0, -0.45], [0.16, 0.6, 0.16]);
});
