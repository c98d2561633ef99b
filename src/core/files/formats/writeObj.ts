import { equalArrays } from '../../ground/equalArrays';
import { rgbFromHex } from '../../ground/color/hex';
import type { Rgb } from '../../ground/color/oklab';
import type { Kit } from '../../kit/kit';
import { adjacencyOf } from '../../shapes/mesh/adjacency';
import { measureFaces } from '../../shapes/mesh/measure';
import { smoothingGroups } from '../../shapes/mesh/smoothing';
import { encodeSheet, extensionOfMime, rastersOf } from '../../sheet/encode';
import { groupFaces, groupUvs, type ExportModel, type FaceGroup } from '../leaving/exportModel';
import { cornerNormalsOf, cornersByFace, dressedItem } from '../leaving/looseFaces';
import { leaveDefaults, type LeaveOptions } from '../../kit/leaveOptions';
import { lineWord, NamesOnce, safeFile, safeName } from '../../ground/bytes/fileNames';
import type { KitPictures } from '../../ground/pictures/picture';
import type { NamedFile } from '../../ground/bytes/fileKinds';

export interface WriteObjOptions extends Partial<LeaveOptions> {
  /** The pictures that sheets are drawn from. */
  pictures?: KitPictures;
  /** The picture that colors a slot of a model; by default the one of that name among its files. */
  pictureOfSlot?: (item: ExportModel, slot: number) => NamedFile | undefined;
}

/**
 * OBJ, MTL and pictures of models that share the kit's sheets; polygons stay whole. Materials and pictures
 * that differ have names that differ, whatever they were called. Uncolored faces keep material, picture,
 * opacity and vertex colors (behind the position, as many programs read them). `stem`: of the OBJ and MTL
 * files.
 */
export function writeObj(
  kit: Kit,
  models: readonly ExportModel[],
  stem: string,
  { pictures: sheetPictures = new Map(), pictureOfSlot = pictureAmongFiles, ...options }: WriteObjOptions = {},
): NamedFile[] {
  const rasters = rastersOf(sheetPictures);
  const materials = new Materials(kit, sheetPictures, pictureOfSlot);
  const out: string[] = ['# Oligochrome', `mtllib ${stem}.mtl`];
  const base = { v: 1, vt: 1, vn: 1, s: 0 };
  let isTinted = false;
  const objectNames = new NamesOnce<string>('_');
  const { faces: polygons } = { ...leaveDefaults, ...options };
  for (const item of models) writeModel(dressedItem(item, options));
  const encode = (lines: string[]) => new TextEncoder().encode(lines.join('\n') + '\n');
  return [
    { name: `${stem}.obj`, bytes: encode(isTinted ? out.map(withColor) : out) },
    { name: `${stem}.mtl`, bytes: encode(['# Oligochrome', ...materials.lines()]) },
    ...materials.pictures(),
  ];

  function writeModel(item: ExportModel): void {
    const { mesh, seats, model } = item;
    const { positions, cornerColors } = mesh;
    for (let i = 0; i < positions.length; i += 3) out.push(`v ${numbers(positions.subarray(i, i + 3))}`);
    const tinted = new Numbering();
    const uvs = new Numbering();
    const normals = new Numbering();
    const cornerNormals = cornerNormalsOf(mesh, measureFaces(mesh).normals);
    const faces: string[] = [];
    const cornersOf = cornersByFace(mesh, polygons === 'whole' ? Infinity : 3);
    // Who reads no normals may still heed the groups.
    const smooth = smoothingGroups(mesh, adjacencyOf(mesh), cornerNormals);
    let [object, smoothing] = [-1, 0];
    for (const group of groupFaces(kit, item, { ...options, rasters })) {
      const uv = groupUvs(group, mesh, seats);
      const colors = group.sheet ? group.colors : cornerColors;
      faces.push(`usemtl ${materials.of(item, group)}`);
      for (const f of group.faces) {
        if (mesh.faceObject[f] !== object) {
          object = mesh.faceObject[f]!;
          faces.push(
            `o ${objectNames.of(`${model.id} ${object}`, lineWord(mesh.objects.length > 1 ? mesh.objects[object]! : model.name))}`,
          );
        }
        if (smooth[f] !== smoothing) {
          smoothing = smooth[f]!;
          faces.push(`s ${smoothing ? base.s + smoothing : 'off'}`);
        }
        for (const corners of cornersOf(f)) {
          let line = 'f';
          for (const c of corners) {
            const p = mesh.cornerVertex[c]!;
            const v = colors ? positions.length / 3 + tinted.of([...positions.subarray(p * 3, p * 3 + 3), ...tint(colors, c)]) : p;
            const t = uv ? base.vt + uvs.of([uv[c * 2]!, 1 - uv[c * 2 + 1]!]) : '';
            const n = normals.of(cornerNormals.subarray(c * 3, c * 3 + 3));
            line += ` ${base.v + v}/${t}/${base.vn + n}`;
          }
          faces.push(line);
        }
      }
    }
    // One by one: of a large model there are more lines than a call may have arguments.
    for (const lines of [tinted.lines('v'), uvs.lines('vt'), normals.lines('vn'), faces]) for (const line of lines) out.push(line);
    isTinted ||= tinted.count > 0;
    base.v += positions.length / 3 + tinted.count;
    base.vt += uvs.count;
    base.vn += normals.count;
    base.s += smooth.reduce((most, n) => Math.max(most, n), 0);
    if (smoothing) out.push('s off');
  }
}

/** A vertex without a color is white where others have one: readers take all lines of vertices to be alike. */
const withColor = (line: string): string => (/^v \S+ \S+ \S+$/.test(line) ? `${line} 1 1 1` : line);

/** Names and contents of materials and pictures; each thing once. */
class Materials {
  private readonly names = new NamesOnce<string>('_');
  private readonly bodies = new Map<string, string>();
  private readonly pictureNames = new NamesOnce<string>('-');
  private readonly files = new Map<string, NamedFile>();

  constructor(
    private readonly kit: Kit,
    private readonly sheetPictures: KitPictures,
    private readonly pictureOfSlot: NonNullable<WriteObjOptions['pictureOfSlot']>,
  ) {
    // The sheets come first, so that they keep their names.
    for (const sheet of kit.sheets) this.names.of(`sheet ${sheet.id} false`, lineWord(sheet.name));
  }

  of(item: ExportModel, { flat, sheet, colors, slot, seeThrough }: FaceGroup): string {
    if (colors) return this.named('vertex colors', 'vertex colors', body([255, 255, 255], 1));
    if (flat) return this.named(`flat ${flat.name} ${flat.color.join()} ${flat.alpha}`, flat.name, body(flat.color, flat.alpha));
    if (sheet) {
      const picture = this.sheetPicture(sheet.id);
      const lines = `${body([255, 255, 255], 1, picture)}${seeThrough ? `\nmap_d ${picture}` : ''}`;
      return this.named(`sheet ${sheet.id} ${seeThrough}`, seeThrough ? `${sheet.name}_see-through` : sheet.name, lines);
    }
    const { name, color, picture, given, alpha } = item.mesh.slots[slot]!;
    const file = picture ? this.pictureOfSlot(item, slot) : undefined;
    // A color would multiply the picture.
    const lines = body(file && !given ? [255, 255, 255] : rgbFromHex(color), alpha ?? 1, file && this.picture(file));
    // Two materials of one name are one only where they are the same.
    return given || picture ? this.named(`slot ${name} ${lines}`, name, lines) : this.named('none', 'not yet colored', lines);
  }

  private named(key: string, wanted: string, lines: string): string {
    const name = this.names.of(key, lineWord(wanted));
    this.bodies.set(name, lines);
    return name;
  }

  private sheetPicture(id: string): string {
    const key = `sheet ${id}`;
    const known = this.files.get(key);
    if (known) return known.name;
    const sheet = this.kit.sheets.find((s) => s.id === id)!;
    const { bytes, mime } = encodeSheet(sheet, this.sheetPictures);
    const name = this.pictureNames.of(key, `${safeName(sheet.name.toLowerCase(), 'sheet')}.${extensionOfMime(mime)}`);
    this.files.set(key, { name, bytes });
    return name;
  }

  private picture({ name, bytes }: NamedFile): string {
    const same = [...this.files.values()].find((f) => equalArrays(f.bytes, bytes));
    if (same) return same.name;
    const key = `file ${this.files.size}`;
    this.files.set(key, { name: this.pictureNames.of(key, safeFile(name, 'picture')), bytes });
    return this.files.get(key)!.name;
  }

  lines(): string[] {
    return [...this.bodies].flatMap(([name, lines]) => [`newmtl ${name}`, lines, '']);
  }

  pictures(): NamedFile[] {
    return [...this.files.values()];
  }
}

const body = (color: Rgb, alpha: number, picture?: string): string =>
  `Kd ${color.map((v) => short(v / 255)).join(' ')}\nKs 0 0 0${alpha < 1 ? `\nd ${short(alpha)}` : ''}\nillum 1${picture ? `\nmap_Kd ${picture}` : ''}`;

const pictureAmongFiles: NonNullable<WriteObjOptions['pictureOfSlot']> = ({ mesh, files }, slot) => {
  const picture = mesh.slots[slot]!.picture?.toLowerCase();
  return files.find((f) => f.name.toLowerCase() === picture);
};

const tint = (colors: Uint8Array, c: number): number[] => [0, 1, 2].map((k) => Number((colors[c * 4 + k]! / 255).toFixed(4)));
/** Nine significant digits tell all float32 values apart, so as to keep shared positions shared. */
const short = (v: number): string => String(Number(v.toPrecision(9)));
const numbers = (values: ArrayLike<number>): string => Array.from(values, short).join(' ');

/** Distinct tuples, numbered as they come. */
class Numbering {
  private readonly ids = new Map<string, number>();
  get count(): number {
    return this.ids.size;
  }
  of(values: ArrayLike<number>): number {
    const key = numbers(values);
    let id = this.ids.get(key);
    if (id === undefined) this.ids.set(key, (id = this.ids.size));
    return id;
  }
  lines(keyword: string): string[] {
    return [...this.ids.keys()].map((key) => `${keyword} ${key}`);
  }
}
