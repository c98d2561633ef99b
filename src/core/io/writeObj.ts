import { rgbFromHex } from '../color/hex';
import type { Kit } from '../kit/kit';
import { measureFaces } from '../mesh/measure';
import { encodeSheet, extensionOfMime, rastersOf } from '../sheet/encode';
import { groupFaces, groupUvs, type ExportModel, type FlatMaterial, type LeaveAs } from './exportModel';
import { safeName, uniqueNames } from './fileNames';
import type { KitPictures } from './picture';
import type { NamedFile } from './fileKinds';

/** OBJ, MTL and pictures of models that share the kit's sheets; polygons stay whole. Names are unique and safe. `stem`: of the OBJ and MTL files. */
export function writeObj(
  kit: Kit,
  models: readonly ExportModel[],
  stem: string,
  { pictures: sheetPictures = new Map(), as = 'texture' }: { pictures?: KitPictures; as?: LeaveAs } = {},
): NamedFile[] {
  const encoded = new Map(kit.sheets.map((s) => [s.id, encodeSheet(s, sheetPictures)]));
  const sheetFiles = new Map(
    uniqueNames(kit.sheets.map((s) => safeName(s.name.toLowerCase(), 'sheet'))).map((name, i) => [
      kit.sheets[i]!.id,
      `${name}.${extensionOfMime(encoded.get(kit.sheets[i]!.id)!.mime)}`,
    ]),
  );
  const out: string[] = ['# Oligochrome', `mtllib ${stem}.mtl`];
  const materials = new Map<string, string>();
  const pictures = new Map<string, Uint8Array>();
  const base = { v: 1, vt: 1, vn: 1 };
  for (const item of models) writeModel(item);
  const mtl = ['# Oligochrome', ...[...materials].flatMap(([name, body]) => [`newmtl ${name}`, body, ''])];
  const encode = (lines: string[]) => new TextEncoder().encode(lines.join('\n') + '\n');
  return [
    { name: `${stem}.obj`, bytes: encode(out) },
    { name: `${stem}.mtl`, bytes: encode(mtl) },
    ...[...pictures].map(([name, bytes]) => ({ name, bytes })),
  ];

  function writeModel(item: ExportModel): void {
    const { mesh, seats, model, files } = item;
    const { positions } = mesh;
    for (let i = 0; i < positions.length; i += 3)
      out.push(`v ${short(positions[i]!)} ${short(positions[i + 1]!)} ${short(positions[i + 2]!)}`);
    const uvs = new Numbering(2);
    const normals = new Numbering(3);
    const faceNormals = measureFaces(mesh).normals;
    const faces: string[] = [];
    let object = -1;
    for (const group of groupFaces(kit, item, { as, pictures: rastersOf(sheetPictures) })) {
      const uv = groupUvs(group, mesh, seats);
      faces.push(
        `usemtl ${group.flat ? flatMaterial(group.flat) : group.sheet ? sheetMaterial(group.sheet.id) : slotMaterial(item, group.slot)}`,
      );
      for (const f of group.faces) {
        if (mesh.faceObject[f] !== object) {
          object = mesh.faceObject[f]!;
          const name = mesh.objects.length > 1 ? mesh.objects[object]! : model.name;
          faces.push(`o ${word(name)}`);
        }
        let line = 'f';
        for (let c = mesh.faceStart[f]!; c < mesh.faceStart[f + 1]!; c++) {
          const t = uv ? base.vt + uvs.of(uv[c * 2]!, 1 - uv[c * 2 + 1]!) : '';
          const n = mesh.cornerNormals
            ? normals.of(mesh.cornerNormals[c * 3]!, mesh.cornerNormals[c * 3 + 1]!, mesh.cornerNormals[c * 3 + 2]!)
            : normals.of(faceNormals[f * 3]!, faceNormals[f * 3 + 1]!, faceNormals[f * 3 + 2]!);
          line += ` ${base.v + mesh.cornerVertex[c]!}/${t}/${base.vn + n}`;
        }
        faces.push(line);
      }
    }
    out.push(...uvs.lines('vt'));
    out.push(...normals.lines('vn'));
    for (const line of faces) out.push(line);
    base.v += positions.length / 3;
    base.vt += uvs.count;
    base.vn += normals.count;
    for (const { name, bytes } of files) if ([...materials.values()].some((m) => m.includes(`map_Kd ${name}`))) pictures.set(name, bytes);
  }

  function flatMaterial({ name, color }: FlatMaterial): string {
    const key = word(name);
    materials.set(key, `Kd ${color.map((v) => short(v / 255)).join(' ')}\nKs 0 0 0\nillum 1`);
    return key;
  }

  function sheetMaterial(id: string): string {
    const sheet = kit.sheets.find((s) => s.id === id)!;
    const name = word(sheet.name);
    const file = sheetFiles.get(id)!;
    if (!pictures.has(file)) pictures.set(file, encoded.get(id)!.bytes);
    materials.set(name, `Kd 1 1 1\nKs 0 0 0\nillum 1\nmap_Kd ${file}`);
    return name;
  }

  function slotMaterial({ mesh, files }: ExportModel, slot: number): string {
    const { name, color, picture, given } = mesh.slots[slot]!;
    const key = given || picture ? word(name) : 'not_yet_colored';
    const kd = rgbFromHex(color)
      .map((v) => short(v / 255))
      .join(' ');
    const hasFile = picture && files.some((f) => f.name === picture);
    materials.set(key, `Kd ${kd}\nKs 0 0 0\nillum 1${hasFile ? `\nmap_Kd ${picture}` : ''}`);
    return key;
  }
}

/** Nine significant digits tell all float32 values apart, so as to keep shared positions shared. */
const short = (v: number): string => String(Number(v.toPrecision(9)));
const word = (name: string): string => name.trim().replace(/\s+/g, '_') || 'unnamed';

/** Distinct tuples, numbered as they come. */
class Numbering {
  private readonly ids = new Map<string, number>();
  constructor(private readonly width: number) {}
  get count(): number {
    return this.ids.size;
  }
  of(...values: number[]): number {
    const key = values.slice(0, this.width).map(short).join(' ');
    let id = this.ids.get(key);
    if (id === undefined) this.ids.set(key, (id = this.ids.size));
    return id;
  }
  lines(keyword: string): string[] {
    return [...this.ids.keys()].map((key) => `${keyword} ${key}`);
  }
}
