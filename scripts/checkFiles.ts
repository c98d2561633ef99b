// Reads every model below the given folders, colors it, writes it as GLB and validates that: `npm run
// check-files -- FOLDER...`.
import { readdirSync, readFileSync, statSync } from 'node:fs';
import { dirname, join } from 'node:path';
import validator from 'gltf-validator';
import { FileError } from '@/core/ground/bytes/errors';
import { writeGlb } from '@/core/files/gltf/writeGlb';
import { isModelFile, type NamedFile } from '@/core/ground/bytes/fileKinds';
import { readModel } from '@/core/files/formats/readModel';
import { emptySeats, type Model } from '@/core/kit/kit';
import { faceCount } from '@/core/shapes/mesh/polyMesh';
import { newKit } from '@/core/sheet/starter';
import { nodeCodecs } from './nodePlatform';

const files = process.argv.slice(2).flatMap(function below(path: string): string[] {
  if (!statSync(path).isDirectory()) return isModelFile(path) ? [path] : [];
  return readdirSync(path).flatMap((name) => below(join(path, name)));
});
let [read, refused, invalid] = [0, 0, 0];
for (const path of files) {
  const named = (name: string): NamedFile => ({ name, bytes: new Uint8Array(readFileSync(join(dirname(path), name))) });
  try {
    const beside = readdirSync(dirname(path)).filter((n) => /\.(mtl|bin|png|jpe?g|webp)$/i.test(n));
    const result = await readModel(named(path.slice(dirname(path).length + 1)), beside.map(named), { codecs: nodeCodecs });
    read++;
    const kit = newKit('Check');
    const faces = faceCount(result.mesh);
    const model: Model = {
      id: 'm',
      name: result.name,
      mesh: '',
      faces,
      sheet: kit.sheets[0]!.id,
      regions: [],
      slots: [],
      seams: [],
      source: { format: result.format, name: '', files: [] },
    };
    const seats = emptySeats(faces);
    // A third of the faces stays as it came.
    seats.cell.forEach((_, f) => (seats.cell[f] = f % 3 ? (f % 15) + 1 : 0));
    const glb = await writeGlb(kit, [{ model, mesh: result.mesh, seats, files: result.keep }], { codecs: nodeCodecs });
    const { issues } = await validator.validateBytes(glb);
    const bad = issues.messages.filter((m) => m.severity < 2);
    if (bad.length) {
      invalid++;
      const kinds = [...new Set(bad.map((m) => `${m.code} ${m.pointer ?? ''}: ${m.message}`))];
      console.log(`${path}\n  ${bad.length} issues: ${kinds.slice(0, 3).join('\n  ')}`);
    }
  } catch (error) {
    refused++;
    console.log(
      `${path}\n  ${error instanceof FileError ? 'refused' : 'FAILED'}: ${error instanceof FileError ? error.message : error instanceof Error ? error.stack : String(error)}`,
    );
    if (!(error instanceof FileError)) process.exitCode = 1;
  }
}
console.log(`${files.length} files: ${read} read, ${refused} refused, ${invalid} exports with errors or warnings`);
if (invalid) process.exitCode = 1;
