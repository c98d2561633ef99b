import { sha256 } from '@noble/hashes/sha2.js';
import { bytesToHex } from '@noble/hashes/utils.js';
import { costOfGltf } from '../budget/costOfGltf';
import type { Document } from '@gltf-transform/core';
import { isGltfModel, type ExportModel } from '../leaving/exportModel';
import { safeFile } from '../../ground/bytes/fileNames';
import type { NamedFile } from '../../ground/bytes/fileKinds';
import { openGltf, openKept } from '../gltf/openGltf';
import { joinedNodes } from '../gltf/joinedNodes';
import { writeGlb, writeGltf, type PictureBeside } from '../gltf/writeGlb';
import { leaveDefaults } from '../../kit/leaveOptions';
import { slotPicturesOf } from '../formats/slotPicturesOf';
import { lossesOf, type LossOptions } from '../formats/losses';
import { writeObj } from '../formats/writeObj';
import { writePly } from '../formats/writePly';
import { writeStl } from '../formats/writeStl';
import type { HandOffPart } from '../../kit/kit';
import { triangleCount } from '../../shapes/mesh/polyMesh';
import { rastersOf } from '../../sheet/encode';
import { sheetNamed } from '../../kit/colorings/shown';
import { count } from '../../ground/words';
import type { HandOffInput } from './input';
import type { FileReport } from './report';
import { folderOf, picturePath, relativePath, wayOf, withoutExtension } from './tree';

interface Written extends NamedFile {
  report?: Partial<FileReport>;
}

/**
 * One file with models, and those that it names. Paths are from the top of what leaves. Throws `FileError` where a
 * model's own file cannot be opened again, and where no models leave in the format.
 */
export async function writeModels(input: HandOffInput, part: HandOffPart, path: string, items: readonly ExportModel[]): Promise<Written[]> {
  const { handOff, pictures, codecs } = input;
  const { kit } = input.state;
  const options = {
    ...leaveDefaults,
    ...part.options,
    as: wayOf(
      part,
      items.map((i) => i.model),
    ),
    pictures,
    ...(codecs && { codecs }),
  };
  const stem = withoutExtension(path).slice(folderOf(path).length);
  /** `written`: a glTF as it leaves: what it says of it is counted there. */
  const report = async (written?: Document): Promise<Partial<FileReport>> => {
    const said = { models: items.map((i) => i.model.name), kept: [] as string[], changed: [] as string[], lost: [] as string[] };
    for (const item of items) {
      const source = isGltfModel(item) ? await openKept(item.files, codecs) : undefined;
      const losses: LossOptions = {
        ...options,
        format: part.format as LossOptions['format'],
        isWholeKit: items.length > 1,
        ...(source && { source }),
      };
      const about = (s: string) => (items.length > 1 ? `${item.model.name}: ${s}` : s);
      said.lost.push(...lossesOf(kit, item, losses).map(about));
      if (source && written) said.lost.push(...joinedNodes(source.document, written).map(about));
      said.changed.push(about(changedOf(item)));
    }
    if (written && items.some(isGltfModel)) said.kept.push(keptOf(written.getRoot()));
    return { ...said, ...(written && { cost: costIn(written) }) };
  };
  const named = (file: NamedFile): NamedFile => ({ name: folderOf(path) + file.name, bytes: file.bytes });
  switch (part.format) {
    case 'glb': {
      const bytes = await writeGlb(kit, items, options);
      const { document } = await openGltf('written.glb', bytes);
      return [{ name: path, bytes, report: await report(document) }];
    }
    case 'gltf': {
      const beside = new Map<string, NamedFile>();
      const addressOf = ({ of, name, bytes, extension }: PictureBeside) => {
        const folder = folderOf(part.pictures ?? '');
        // What came along is known by its contents, so that models that share it do so here.
        const own = () =>
          `${folder}${safeFile(`${name.replace(/\.[^.]+$/, '')}-${bytesToHex(sha256(bytes)).slice(0, 8)}.${extension}`, 'picture')}`;
        const to = of
          ? `${withoutExtension(picturePath(kit, handOff, part, path, of.variant ? sheetNamed(of.sheet, of.variant) : of.sheet, of.layer))}.${extension}`
          : own();
        beside.set(to, { name: to, bytes });
        return relativePath(path, to);
      };
      const { files, document } = await writeGltf(kit, items, stem, addressOf, options);
      const [main, ...parts] = files.map(named);
      return [{ ...main!, report: await report(document) }, ...parts, ...beside.values()];
    }
    case 'obj': {
      const files = writeObj(kit, items, stem, { ...options, pictureOfSlot: await slotPicturesOf(items, codecs) });
      const [main, ...others] = files.map(named);
      return [{ ...main!, report: await report() }, ...others];
    }
    case 'ply':
      return [{ name: path, bytes: writePly(kit, items, rastersOf(pictures), options), report: await report() }];
    case 'stl':
      return [{ name: path, bytes: writeStl(items, options), report: await report() }];
    default:
      throw new Error(`“${part.format}” is no format in which models leave.`);
  }
}

function costIn(document: Document): NonNullable<FileReport['cost']> {
  const { drawCalls, gpuVertices, materials } = costOfGltf(document);
  return { drawCalls, vertices: gpuVertices, materials, textures: document.getRoot().listTextures().length };
}

function keptOf(root: ReturnType<Document['getRoot']>): string {
  const lists: [number, string][] = [
    [root.listNodes().length, 'node'],
    [root.listSkins().length, 'skin'],
    [root.listAnimations().length, 'animation'],
    [root.listCameras().length, 'camera'],
  ];
  return `${lists.flatMap(([n, word]) => (n ? [count(n, word)] : [])).join(', ')}, with their names and extras.`;
}

function changedOf({ mesh, seats, leaveOut }: ExportModel): string {
  let [colored, left] = [0, 0];
  seats.cell.forEach((c, f) => (leaveOut?.[f] ? left++ : c && colored++));
  const bare = seats.cell.length - colored - left;
  return (
    [
      `${count(colored, 'face')} of ${count(seats.cell.length, 'face')} (${count(triangleCount(mesh), 'triangle')}) leave with the kit’s colors`,
      ...(bare ? [`${bare} as they came`] : []),
      ...(left ? [`${left} are left out, being never seen`] : []),
    ].join(', ') + '.'
  );
}
