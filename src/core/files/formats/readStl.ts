import { Growing } from '../../shapes/mesh/build';
import type { PolyMesh } from '../../shapes/mesh/polyMesh';
import { indexVertices } from '../../shapes/mesh/weld';
import { checkFaceLimit, FileError, type ReadContext } from '../../ground/bytes/errors';
import { decodeName, Scanner, utf8Bytes } from '../../ground/bytes/text';

/**
 * STL of both kinds. Corners at equal positions become one vertex; facet normals are dropped, as they follow
 * from the corners. A file that begins with "solid" and has exactly the length of a binary one is binary.
 * Throws `FileError` with the line or the triangle.
 */
export function readStl(file: string, bytes: Uint8Array, context: ReadContext = {}): PolyMesh {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  const announced = bytes.length >= 84 ? view.getUint32(80, true) : -1;
  const solid = /^\s*solid\b/i.test(new TextDecoder('latin1').decode(bytes.subarray(0, 80)).replace(/^[^\x21-\x7e]+/, ''));
  // Some writers append a few bytes to a binary file, so that its length exceeds what its count says.
  if (announced >= 0 && (84 + announced * 50 === bytes.length || !solid)) return readBinary(file, bytes, view, announced, context);
  if (!solid) throw new FileError(file, 'this does not read as an STL model.');
  return readAscii(file, bytes, context);
}

function readBinary(file: string, bytes: Uint8Array, view: DataView, count: number, context: ReadContext): PolyMesh {
  checkFaceLimit(file, Math.min(count, (bytes.length - 84) / 50));
  if (count === 0) throw new FileError(file, 'it holds no triangles.');
  if (84 + count * 50 > bytes.length)
    throw new FileError(
      file,
      `it announces ${count} triangles, but ends in triangle ${Math.floor((bytes.length - 84) / 50) + 1}.`,
      `byte ${bytes.length}`,
    );
  const positions = new Float32Array(count * 9);
  for (let t = 0; t < count; t++) {
    for (let k = 0; k < 9; k++) positions[t * 9 + k] = view.getFloat32(84 + t * 50 + 12 + k * 4, true);
    if ((t & 0xffff) === 0xffff) context.onProgress?.(t / count, 'Reading');
  }
  return toMesh(positions, new Uint16Array(count), ['object 1']);
}

function readAscii(file: string, data: Uint8Array, context: ReadContext): PolyMesh {
  const s = new Scanner(utf8Bytes(data));
  const positions = new Growing(Float32Array);
  const faceObject = new Growing(Uint16Array);
  const objects: string[] = [];
  let loop = -1;
  while (s.at < s.end) {
    s.skipSpace();
    const start = s.at;
    const word = s.word().toLowerCase();
    if (word === 'solid' && objects.length < 65535) objects.push(decodeName(s.restOfLine()) || `object ${objects.length + 1}`);
    else if (word === 'outer') loop = positions.length;
    else if (word === 'vertex') {
      for (let k = 0; k < 3; k++) {
        const v = s.number();
        if (v === undefined) throw new FileError(file, 'a vertex needs three numbers.', s.lineAt(start));
        positions.push(v);
      }
    } else if (word === 'endloop') {
      if (loop < 0 || positions.length - loop !== 9) throw new FileError(file, 'a facet does not have three vertices.', s.lineAt(start));
      faceObject.push(Math.max(0, objects.length - 1));
      loop = -1;
      if ((faceObject.length & 0xffff) === 0xffff) {
        checkFaceLimit(file, faceObject.length);
        context.onProgress?.(s.at / s.end, 'Reading');
      }
    } else if (word && !/^(facet|normal|loop|endfacet|endsolid|end|color)$/.test(word))
      throw new FileError(file, `“${word.slice(0, 40)}” has no meaning in an STL model.`, s.lineAt(start));
    if (word !== 'facet' && word !== 'outer') s.nextLine();
    else if (word === 'facet' || word === 'outer') skipRest(s, word);
  }
  if (loop >= 0 || positions.length !== faceObject.length * 9)
    throw new FileError(file, 'the file ends in the middle of a facet.', s.lineAt());
  if (!faceObject.length) throw new FileError(file, 'it holds no triangles.');
  checkFaceLimit(file, faceObject.length);
  return toMesh(positions.done(), faceObject.done(), objects.length ? objects : ['object 1']);
}

/** `facet normal x y z` and `outer loop` may share a line with what follows them. */
function skipRest(s: Scanner, word: string): void {
  s.word();
  if (word === 'facet') for (let k = 0; k < 3; k++) s.number();
}

function toMesh(positions: Float32Array, faceObject: Uint16Array, objects: string[]): PolyMesh {
  const faces = faceObject.length;
  const faceStart = Uint32Array.from({ length: faces + 1 }, (_, f) => f * 3);
  const raw: PolyMesh = {
    positions,
    faceStart,
    cornerVertex: Uint32Array.from({ length: faces * 3 }, (_, c) => c),
    uvSets: [],
    faceSlot: new Uint16Array(faces),
    slots: [{ name: 'no material', color: '#c8c8c8', given: false, none: true }],
    faceObject,
    objects,
  };
  return indexVertices(raw);
}
