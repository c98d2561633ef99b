import { Growing } from '../../shapes/mesh/build';
import type { PolyMesh } from '../../shapes/mesh/polyMesh';
import { checkFaceLimit, FileError, type ReadContext } from '../../ground/bytes/errors';
import { Scanner } from '../../ground/bytes/text';

const sizes = new Map([
  ['char', 1],
  ['uchar', 1],
  ['int8', 1],
  ['uint8', 1],
  ['short', 2],
  ['ushort', 2],
  ['int16', 2],
  ['uint16', 2],
  ['int', 4],
  ['uint', 4],
  ['int32', 4],
  ['uint32', 4],
  ['float', 4],
  ['float32', 4],
  ['double', 8],
  ['float64', 8],
]);

interface Property {
  name: string;
  type: string;
  /** The type of a list's count. */
  countType?: string;
}
interface Element {
  name: string;
  count: number;
  properties: Property[];
}

/**
 * PLY, ascii and binary of both byte orders, with polygons, triangle strips and colors of vertices and faces (sRGB).
 * Source: Greg Turk, "The PLY Polygon File Format" (1994). Throws `FileError` with the line or the byte.
 */
export function readPly(file: string, bytes: Uint8Array, context: ReadContext = {}): PolyMesh {
  const { format, elements, body, lineCount } = readHeader(file, bytes);
  const source =
    format === 'ascii' ? new AsciiValues(file, bytes, body) : new BinaryValues(file, bytes, body, format === 'binary_little_endian');
  let vertices: VertexTable | null = null;
  const faceStart = new Growing(Uint32Array);
  const cornerVertex = new Growing(Uint32Array);
  const cornerUv = new Growing(Float32Array);
  const faceColor = new Growing(Uint8Array);
  faceStart.push(0);
  let anyFaceColor = false;
  let anyFaceUv = false;
  const addFace = (ids: ArrayLike<number>) => {
    if (ids.length < 3) return false;
    const count = vertices?.count ?? 0;
    for (let k = 0; k < ids.length; k++) {
      if (!(ids[k]! >= 0 && ids[k]! < count))
        throw new FileError(file, `a face uses vertex ${ids[k]}, but there are ${count}.`, source.where());
      cornerVertex.push(ids[k]!);
    }
    faceStart.push(cornerVertex.length);
    return true;
  };
  for (const element of elements) {
    source.checkRoom(element);
    if (element.name === 'vertex' && vertices) throw new FileError(file, 'it has “vertex” twice; only one is allowed.', 'header');
    if (element.name === 'vertex') vertices = readVertices(file, element, source);
    else if (element.name === 'face') {
      checkFaceLimit(file, element.count);
      const isIndices = (p: Property) => p.countType !== undefined && /^vertex_ind(ex|ices)$/.test(p.name);
      if (element.count > 0 && !element.properties.some(isIndices))
        throw new FileError(file, 'its faces have no list of vertices.', `line ${lineCount}`);
      for (let f = 0; f < element.count; f++) {
        let uv: number[] | null = null;
        let added = false;
        const rgb = [255, 255, 255];
        let colored = false;
        for (const p of element.properties) {
          if (p.countType) {
            const list = source.list(p.countType, p.type);
            if (isIndices(p)) added = addFace(list);
            else if (p.name === 'texcoord') uv = list;
          } else {
            const value = source.value(p.type);
            const channel = channelOf(p.name);
            if (channel >= 0 && channel < 3) {
              rgb[channel] = colorByte(value, p.type);
              colored = true;
            }
          }
        }
        if (!added) continue;
        const corners = faceStart.at(faceStart.length - 1) - faceStart.at(faceStart.length - 2);
        for (let k = 0; k < corners; k++) {
          cornerUv.push(uv?.[k * 2] ?? 0);
          cornerUv.push(1 - (uv?.[k * 2 + 1] ?? 0));
        }
        anyFaceUv ||= uv !== null && uv.length >= corners * 2;
        anyFaceColor ||= colored;
        for (const v of rgb) faceColor.push(v);
        if ((f & 0xffff) === 0xffff) context.onProgress?.(f / element.count, 'Reading');
      }
    } else if (element.name === 'tristrips') readStrips(element, source, addFace);
    else
      for (let i = 0; i < element.count; i++)
        for (const p of element.properties)
          if (p.countType) source.list(p.countType, p.type);
          else source.value(p.type);
  }
  if (!vertices) throw new FileError(file, 'it has no vertices.');
  if (faceStart.length < 2) throw new FileError(file, vertices.count ? 'it has points but no faces.' : 'it holds no model.');
  checkFaceLimit(file, faceStart.length - 1);
  return toMesh(
    vertices,
    faceStart.done(),
    cornerVertex.done(),
    anyFaceUv ? cornerUv.done() : null,
    anyFaceColor ? faceColor.done() : null,
  );
}

function toMesh(
  vertices: VertexTable,
  faceStart: Uint32Array,
  cornerVertex: Uint32Array,
  faceUv: Float32Array | null,
  faceColor: Uint8Array | null,
): PolyMesh {
  const { normals, uvs, colors } = vertices;
  const corners = cornerVertex.length;
  const faces = faceStart.length - 1;
  let cornerColors: Uint8Array | undefined;
  if (colors || (faceColor && faceColor.length === faces * 3)) {
    cornerColors = new Uint8Array(corners * 4).fill(255);
    for (let f = 0; f < faces; f++)
      for (let c = faceStart[f]!; c < faceStart[f + 1]!; c++) {
        if (faceColor) cornerColors.set(faceColor.subarray(f * 3, f * 3 + 3), c * 4);
        else cornerColors.set(colors!.subarray(cornerVertex[c]! * 4, cornerVertex[c]! * 4 + 4), c * 4);
      }
  }
  const spread = (data: Float32Array, width: number) => {
    const out = new Float32Array(corners * width);
    for (let c = 0; c < corners; c++) for (let k = 0; k < width; k++) out[c * width + k] = data[cornerVertex[c]! * width + k]!;
    return out;
  };
  return {
    positions: vertices.positions,
    faceStart,
    cornerVertex,
    ...(normals && { cornerNormals: spread(normals, 3) }),
    ...(cornerColors && { cornerColors }),
    uvSets: faceUv ? [faceUv] : uvs ? [spread(uvs, 2)] : [],
    faceSlot: new Uint16Array(faces),
    slots: [{ name: 'no material', color: '#c8c8c8', given: false, none: true }],
    faceObject: new Uint16Array(faces),
    objects: ['object 1'],
  };
}

const channelOf = (name: string): number =>
  ['red', 'green', 'blue', 'alpha'].indexOf(
    name
      .replace(/^diffuse_/, '')
      .replace(/^r$/, 'red')
      .replace(/^g$/, 'green')
      .replace(/^b$/, 'blue')
      .replace(/^a$/, 'alpha'),
  );

function colorByte(value: number, type: string): number {
  const scale =
    type.startsWith('float') || type.startsWith('double') ? 255 : type.includes('short') || type.includes('16') ? 255 / 65535 : 1;
  return Math.max(0, Math.min(255, Math.round(value * scale))) || 0;
}

interface VertexTable {
  count: number;
  positions: Float32Array;
  normals?: Float32Array;
  uvs?: Float32Array;
  colors?: Uint8Array;
}

function readVertices(file: string, element: Element, source: Values): VertexTable {
  const { count, properties } = element;
  const has = (name: string) => properties.some((p) => !p.countType && p.name === name);
  if (!has('x') || !has('y') || !has('z')) throw new FileError(file, 'its vertices lack x, y or z.');
  const table: VertexTable = { count, positions: new Float32Array(count * 3) };
  if (has('nx') && has('ny') && has('nz')) table.normals = new Float32Array(count * 3);
  const uvNames = [
    ['u', 'v'],
    ['s', 't'],
    ['texture_u', 'texture_v'],
  ].find(([u, v]) => has(u!) && has(v!));
  if (uvNames) table.uvs = new Float32Array(count * 2);
  if (properties.filter((p) => !p.countType && channelOf(p.name) >= 0).length >= 3) table.colors = new Uint8Array(count * 4).fill(255);
  const setters = properties.map((p): ((v: number, value: number) => void) => {
    const axis = ['x', 'y', 'z'].indexOf(p.name);
    if (axis >= 0) return (v, value) => (table.positions[v * 3 + axis] = value);
    const normal = ['nx', 'ny', 'nz'].indexOf(p.name);
    if (normal >= 0 && table.normals) return (v, value) => (table.normals![v * 3 + normal] = value);
    if (uvNames && p.name === uvNames[0]) return (v, value) => (table.uvs![v * 2] = value);
    if (uvNames && p.name === uvNames[1]) return (v, value) => (table.uvs![v * 2 + 1] = 1 - value);
    const channel = channelOf(p.name);
    if (channel >= 0 && table.colors) return (v, value) => (table.colors![v * 4 + channel] = colorByte(value, p.type));
    return () => undefined;
  });
  for (let v = 0; v < count; v++)
    for (let k = 0; k < properties.length; k++) {
      const p = properties[k]!;
      if (p.countType) source.list(p.countType, p.type);
      else setters[k]!(v, source.value(p.type));
    }
  return table;
}

/** Strips of triangles as the older scanners wrote them; -1 starts a new strip. */
function readStrips(element: Element, source: Values, addFace: (ids: number[]) => boolean): void {
  for (let i = 0; i < element.count; i++)
    for (const p of element.properties) {
      if (!p.countType) {
        source.value(p.type);
        continue;
      }
      let strip: number[] = [];
      for (const id of source.list(p.countType, p.type)) {
        if (id < 0) strip = [];
        else strip.push(id);
        const n = strip.length;
        if (n < 3) continue;
        const [a, b, c] = strip.slice(-3) as [number, number, number];
        if (a !== b && b !== c && a !== c) addFace(n % 2 ? [a, b, c] : [b, a, c]);
      }
    }
}

function readHeader(file: string, bytes: Uint8Array) {
  const elements: Element[] = [];
  let format = '';
  let at = 0;
  let lineCount = 0;
  const fail = (problem: string): never => {
    throw new FileError(file, problem, `line ${lineCount}`);
  };
  for (;;) {
    if (at >= bytes.length || at > 1 << 20)
      throw new FileError(file, 'its header has no end (“end_header” is missing).', `line ${lineCount}`);
    let end = at;
    while (end < bytes.length && bytes[end] !== 10 && bytes[end] !== 13) end++;
    const words = new TextDecoder('latin1')
      .decode(bytes.subarray(at, Math.min(end, at + 4096)))
      .trim()
      .split(/\s+/);
    // Lines end in LF, CR LF or a lone CR.
    at = end + (bytes[end] === 13 && bytes[end + 1] === 10 ? 2 : 1);
    lineCount++;
    if (lineCount === 1 && words[0] !== 'ply') fail('this does not read as a PLY model.');
    if (words[0] === 'end_header') break;
    if (words[0] === 'format') {
      format = words[1] ?? '';
      if (!['ascii', 'binary_little_endian', 'binary_big_endian'].includes(format)) fail(`the format “${format}” is not known.`);
    } else if (words[0] === 'element') {
      const count = Number(words[2]);
      if (!Number.isInteger(count) || count < 0 || count > 100_000_000)
        fail(`the count of “${words[1] ?? ''}” is “${words[2] ?? ''}”, which is no number.`);
      elements.push({ name: words[1] ?? '', count, properties: [] });
    } else if (words[0] === 'property') {
      const list = words[1] === 'list';
      const types = list ? [words[2] ?? '', words[3] ?? ''] : [words[1] ?? ''];
      const unknown = types.find((t) => !sizes.has(t));
      if (unknown !== undefined) fail(`the property type “${unknown}” is not known.`);
      if (!elements.length) fail('a property stands before any element.');
      elements
        .at(-1)!
        .properties.push(
          list ? { name: words[4] ?? '', type: words[3]!, countType: words[2]! } : { name: words[2] ?? '', type: words[1]! },
        );
    }
  }
  if (!format) fail('its header states no format.');
  return { format, elements, body: at, lineCount };
}

interface Values {
  value(type: string): number;
  list(countType: string, type: string): number[];
  where(): string;
  /** Throws before memory is taken for more entries than the file can hold. */
  checkRoom(element: Element): void;
}

const notCounted = 'a list begins there whose length is no whole number from 0 to 1,000,000.';

class AsciiValues implements Values {
  private readonly s: Scanner;
  constructor(
    private readonly file: string,
    bytes: Uint8Array,
    body: number,
  ) {
    this.s = new Scanner(bytes, body);
  }
  value(): number {
    this.s.skipSpace();
    const v = this.s.number();
    if (v === undefined)
      throw new FileError(this.file, this.s.at >= this.s.end ? 'the file ends too early.' : 'a number was expected.', this.where());
    return v;
  }
  list(): number[] {
    const count = this.value();
    if (!Number.isInteger(count) || count < 0 || count > 1_000_000) throw new FileError(this.file, notCounted, this.where());
    const list: number[] = [];
    for (let i = 0; i < count; i++) list.push(this.value());
    return list;
  }
  where(): string {
    return this.s.lineAt();
  }
  checkRoom({ name, count, properties }: Element): void {
    if (properties.length && count * properties.length * 2 > this.s.end - this.s.at + 1)
      throw new FileError(this.file, `it announces ${count} of “${name}”, but the file ends before that.`, 'header');
  }
}

class BinaryValues implements Values {
  private readonly view: DataView;
  constructor(
    private readonly file: string,
    bytes: Uint8Array,
    private at: number,
    private readonly little: boolean,
  ) {
    this.view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  }
  value(type: string): number {
    const size = sizes.get(type)!;
    if (this.at + size > this.view.byteLength) throw new FileError(this.file, 'the file ends too early.', this.where());
    const at = this.at;
    this.at += size;
    switch (type) {
      case 'char':
      case 'int8':
        return this.view.getInt8(at);
      case 'uchar':
      case 'uint8':
        return this.view.getUint8(at);
      case 'short':
      case 'int16':
        return this.view.getInt16(at, this.little);
      case 'ushort':
      case 'uint16':
        return this.view.getUint16(at, this.little);
      case 'int':
      case 'int32':
        return this.view.getInt32(at, this.little);
      case 'uint':
      case 'uint32':
        return this.view.getUint32(at, this.little);
      case 'float':
      case 'float32':
        return this.view.getFloat32(at, this.little);
      default:
        return this.view.getFloat64(at, this.little);
    }
  }
  list(countType: string, type: string): number[] {
    const count = this.value(countType);
    if (!Number.isInteger(count) || count < 0) throw new FileError(this.file, notCounted, this.where());
    if (this.at + count * sizes.get(type)! > this.view.byteLength)
      throw new FileError(this.file, `a list of ${count} entries reaches past the end of the file.`, this.where());
    const list = new Array<number>(count);
    for (let i = 0; i < count; i++) list[i] = this.value(type);
    return list;
  }
  where(): string {
    return `byte ${this.at}`;
  }
  checkRoom({ name, count, properties }: Element): void {
    const least = properties.reduce((sum, p) => sum + sizes.get(p.countType ?? p.type)!, 0);
    if (this.at + count * least > this.view.byteLength)
      throw new FileError(this.file, `it announces ${count} of “${name}”, but the file ends before that.`, 'header');
  }
}
