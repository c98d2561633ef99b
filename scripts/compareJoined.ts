// Colors glTF files by their flat materials, writes them with fewest draw calls, and compares that with what
// a general optimizer makes of the file as it came:
// `npm run compare-joined -- FOLDER...`. Says, too, where the draw calls that the interface foresees are not
// those of the file.
import { byId } from '@/core/ground/byId';
import { readdirSync, readFileSync, statSync } from 'node:fs';
import { basename, dirname, join } from 'node:path';
import { WebIO, type Document } from '@gltf-transform/core';
import { ALL_EXTENSIONS } from '@gltf-transform/extensions';
import { flatten, join as joinAll, palette, prune, unpartition, weld } from '@gltf-transform/functions';
import { costOfGltf } from '@/core/files/budget/costOfGltf';
import { tallyOf, type Cost } from '@/core/files/budget/tally';
import { applyEdit } from '@/core/kit/edit/editKinds';
import { FileError } from '@/core/ground/bytes/errors';
import type { NamedFile } from '@/core/ground/bytes/fileKinds';
import { openGltf, openKept } from '@/core/files/gltf/openGltf';
import { writeGlb } from '@/core/files/gltf/writeGlb';
import { readModel } from '@/core/files/formats/readModel';
import { emptySeats, type KitState, type Model } from '@/core/kit/kit';
import { faceCount } from '@/core/shapes/mesh/polyMesh';
import { materialColors, seatColors } from '@/core/faces/seat/byMaterial';
import { newKit } from '@/core/sheet/starter';
import { nodeCodecs } from './nodePlatform';

const files = process.argv.slice(2).flatMap(function below(path: string): string[] {
  if (!statSync(path).isDirectory()) return /\.gl(b|tf)$/i.test(path) ? [path] : [];
  return readdirSync(path).flatMap((name) => below(join(path, name)));
});

async function optimized(document: Document): Promise<Cost> {
  await document.transform(palette(), flatten(), joinAll(), weld(), prune(), unpartition());
  for (const extension of document.getRoot().listExtensionsUsed()) if (/draco|meshopt/.test(extension.extensionName)) extension.dispose();
  return costOfGltf((await openGltf('a.glb', await new WebIO().registerExtensions(ALL_EXTENSIONS).writeBinary(document))).document);
}

const say = (c: Cost) => `${c.drawCalls} draw calls, ${c.gpuVertices} vertices, ${c.textureBytes} B`;
let [compared, worse, untrue] = [0, 0, 0];
for (const path of files) {
  try {
    const named = (name: string): NamedFile => ({ name, bytes: new Uint8Array(readFileSync(join(dirname(path), name))) });
    const beside = readdirSync(dirname(path))
      .filter((n) => /\.(bin|png|jpe?g|webp)$/i.test(n))
      .map(named);
    const main = named(basename(path));
    const { mesh, keep, name } = await readModel(main, beside, { codecs: nodeCodecs });
    const kit = newKit('Check');
    const faces = faceCount(mesh);
    const sheet = kit.sheets[0]!.id;
    const source = { format: 'gltf' as const, name, files: keep.map((f) => ({ name: f.name, content: '' })) };
    const model: Model = { id: 'm', name, mesh: '', faces, sheet, regions: [], slots: [], seams: [], source };
    let state: KitState = { kit: { ...kit, models: [model] }, seats: byId({ m: emptySeats(faces) }) };
    const edit = seatColors(state, 'm', materialColors(mesh));
    if (edit) state = applyEdit(state, edit);
    const costs = { joined: null as Cost | null, shared: null as Cost | null };
    for (const meshes of ['joined', 'shared'] as const) {
      const glb = await writeGlb(state.kit, [{ model, mesh, seats: state.seats.m!, files: keep }], {
        codecs: nodeCodecs,
        meshes,
        nodes: 'joined',
      });
      const cost = (costs[meshes] = costOfGltf((await openGltf('a.glb', glb)).document));
      const told = tallyOf(state, [model], () => mesh, { meshes, nodes: 'joined' }).drawCalls;
      if (told === cost.drawCalls) continue;
      untrue++;
      console.log(`${path}\n  ${meshes}: ${told} draw calls foreseen, ${cost.drawCalls} in the file`);
    }
    const open = () => openKept([main, ...beside], nodeCodecs);
    const [before, other] = [costOfGltf((await open()).document), await optimized((await open()).document)];
    const own = costs.joined!;
    compared++;
    const isWorse = own.drawCalls > other.drawCalls || own.gpuVertices > other.gpuVertices || own.textureBytes > other.textureBytes;
    if (isWorse) worse++;
    if (isWorse || process.env.ALL)
      console.log(
        `${path}\n  came     ${say(before)}\n  joined   ${say(own)}\n  shared   ${say(costs.shared!)}\n  optimizer ${say(other)}`,
      );
  } catch (error) {
    if (!(error instanceof FileError)) console.log(`${path}\n  FAILED ${error instanceof Error ? error.stack : String(error)}`);
  }
}
console.log(`${compared} files compared; in ${worse} the optimizer reached less; ${untrue} figures untrue`);
if (untrue) process.exitCode = 1;
