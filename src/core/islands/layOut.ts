import { chartFaces, type Surface } from './unwrap/chart';
import { edgeCorner } from '../shapes/pick/edges';
import { unwrap, usualSteps, type Refused, type Unwrapped } from './unwrap/unwrap';
import { flatAreas } from './charts';
import { facing, project } from './project';
import { rolledOff } from './rolledOff';

/** How faces are laid flat as islands. */
export type LayingOut =
  /** Along seams, each edge as `edgeCorner` gives it; see `unwrap`. */
  | { kind: 'seams'; seams: Uint32Array; mayCut: boolean }
  /** Each area that is flat up to an angle, as it is seen straight on. */
  | { kind: 'areas'; angle: number }
  /** From the six sides of a box, each face from the side that it is turned to most. */
  | { kind: 'box' }
  /** Rolled off around the axis about which they stand; what closes them at its ends as it is seen straight on. */
  | { kind: 'around' };

/** Degrees up to which faces close the ends of what is rolled off. */
const endAngle = 35;

/** Lays faces flat, each island by itself and at its size on the mesh; see `Unwrapped`. */
export function layOut(surface: Surface, faces: Uint32Array, how: LayingOut, onStep?: (share: number) => void): Unwrapped | Refused {
  const { adjacency } = surface;
  switch (how.kind) {
    case 'seams': {
      const seams = new Set(how.seams);
      return unwrap(surface, faces, (c) => seams.has(edgeCorner(adjacency, c)), {
        steps: usualSteps,
        mayCut: how.mayCut,
        ...(onStep && { onStep }),
      });
    }
    case 'areas':
      return seenStraightOn(surface, flatAreas(adjacency, faces, how.angle));
    case 'box': {
      const side = sidesOfBox(adjacency.normals);
      const isBetween = (c: number) => side[adjacency.cornerFace[c]!] !== side[adjacency.cornerFace[adjacency.neighbour[c]!]!];
      return alongAxes(surface, chartFaces(adjacency, faces, isBetween), side);
    }
    case 'around': {
      const { axis, places } = rolledOff(surface.mesh, adjacency, faces);
      const isEnd = (f: number) => Math.abs(adjacency.normals[f * 3 + axis]!) > Math.cos((endAngle * Math.PI) / 180);
      const ends = seenStraightOn(surface, flatAreas(adjacency, faces.filter(isEnd), endAngle));
      const sides = chartFaces(adjacency, faces.filter((f) => !isEnd(f)), () => false); // prettier-ignore
      for (const list of sides) copyPlaces(surface, list, places, ends.places);
      const flipped = sides.reduce((n, list) => n + flippedIn(surface, list, places), 0);
      return { ...ends, flipped, islands: [...sides, ...ends.islands] };
    }
  }
}

const nothingFlat = ({ mesh }: Surface): Unwrapped => ({
  places: new Float32Array(mesh.cornerVertex.length * 2),
  islands: [],
  cuts: new Uint32Array(0),
  flipped: 0,
  overlapping: 0,
});

/** Triangles of faces that lie with their back up; `places` run down, as texels do. */
function flippedIn({ triangles: { corners, face } }: Surface, faces: Uint32Array, places: Float32Array): number {
  const own = new Set(faces);
  let count = 0;
  for (let t = 0; t < face.length; t++) {
    if (!own.has(face[t]!)) continue;
    const [a, b, c] = [corners[t * 3]! * 2, corners[t * 3 + 1]! * 2, corners[t * 3 + 2]! * 2];
    const [x, y] = [places[a]!, places[a + 1]!];
    if ((places[b]! - x) * (places[c + 1]! - y) - (places[b + 1]! - y) * (places[c]! - x) > 0) count++;
  }
  return count;
}

function copyPlaces({ mesh: { faceStart } }: Surface, faces: Uint32Array, from: Float32Array, to: Float32Array): void {
  for (const f of faces) to.set(from.subarray(faceStart[f]! * 2, faceStart[f + 1]! * 2), faceStart[f]! * 2);
}

function seenStraightOn(surface: Surface, islands: Uint32Array[]): Unwrapped {
  const { normals, areas } = surface.adjacency;
  const out = nothingFlat(surface);
  for (const faces of islands) {
    const { right, up } = facing(normals, areas, faces);
    copyPlaces(surface, faces, project(surface.mesh, faces, right, up), out.places);
  }
  return { ...out, islands };
}

/** For each face the axis that it is turned to most, times 2, and 1 more where it is turned against it. */
function sidesOfBox(normals: Float32Array): Uint8Array {
  return Uint8Array.from({ length: normals.length / 3 }, (_, f) => {
    const n = [0, 1, 2].map((k) => normals[f * 3 + k]!);
    const sizes = n.map(Math.abs);
    const axis = sizes.indexOf(Math.max(...sizes));
    return axis * 2 + (n[axis]! < 0 ? 1 : 0);
  });
}

function alongAxes(surface: Surface, islands: Uint32Array[], side: Uint8Array): Unwrapped {
  const out = nothingFlat(surface);
  for (const faces of islands) {
    const s = side[faces[0]!]!;
    const normal = Float32Array.of(0, 0, 0);
    normal[s >> 1] = s & 1 ? -1 : 1;
    const { right, up } = facing(normal, Float32Array.of(1), Uint32Array.of(0));
    copyPlaces(surface, faces, project(surface.mesh, faces, right, up), out.places);
  }
  return { ...out, islands };
}
