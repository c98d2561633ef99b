import { limits } from '@/core/ground/limits';
import { byId } from '@/core/ground/byId';
import { mkdirSync, readFileSync, readdirSync, statSync, writeFileSync, type Stats } from 'node:fs';
import { dirname, join } from 'node:path';
import { parseArgs } from 'node:util';
import { apartSheet } from '@/core/faces/adopt/apartSheet';
import { takeApart, usualTolerance } from '@/core/faces/adopt/takeApart';
import { costOfGltf } from '@/core/files/budget/costOfGltf';
import { costAsRead, type Cost } from '@/core/files/budget/tally';
import { inspectMesh } from '@/core/shapes/check/inspectMesh';
import { hexFromRgb, rgbFromHex } from '@/core/ground/color/hex';
import { applyEdit } from '@/core/kit/edit/editKinds';
import { safeName } from '@/core/ground/bytes/fileNames';
import { openGltf, openKept } from '@/core/files/gltf/openGltf';
import { writeGlb } from '@/core/files/gltf/writeGlb';
import { encodePng } from '@/core/ground/pictures/png';
import { layAt } from '@/core/islands/arrangeIslands';
import { packIslands } from '@/core/islands/charts';
import { checker } from '@/core/islands/checker';
import { boundsOf as boundsOfIsland } from '@/core/islands/islandsOf';
import { overlaps } from '@/core/islands/overlaps';
import type { NamedFile } from '@/core/ground/bytes/fileKinds';
import { readPictures } from '@/core/files/formats/readPictures';
import { readModel, type ReadModelResult } from '@/core/files/formats/readModel';
import { baseName, extensionOf, stemOf } from '@/core/ground/bytes/text';
import { cropRaster } from '@/core/sheet/picture/meanColor';
import { countBlocks, colorsOfFinding, recognise } from '@/core/sheet/picture/readBlocks';
import { decodePicture } from '@/core/ground/pictures/decodePicture';
import { probePicture } from '@/core/ground/pictures/picture';
import type { PaletteColor } from '@/core/ground/palettes/palette';
import { kindOfExtension, readPalette, writePalette } from '@/core/ground/palettes/paletteFile';
import { writeObj } from '@/core/files/formats/writeObj';
import { emptySeats, findModel, findSheet, newId, usableCells, type Cell, type KitState, type Model } from '@/core/kit/kit';
import { adjacencyOf } from '@/core/shapes/mesh/adjacency';
import { facesWhere } from '@/core/shapes/mesh/facesWhere';
import { measureFaces } from '@/core/shapes/mesh/measure';
import { faceCount, materialCount, type PolyMesh } from '@/core/shapes/mesh/polyMesh';
import { seatColors, vertexColorGroups, type SourceColor } from '@/core/faces/seat/byMaterial';
import { rasterSheet } from '@/core/sheet/raster';
import { newKit } from '@/core/sheet/starter';
import { quantize } from '@/core/ground/color/quantize';
import { edgeCorner } from '@/core/shapes/pick/edges';
import { facesOf } from '@/core/shapes/pick/scopes';
import { findSymmetry } from '@/core/shapes/pick/symmetry';
import { triangulate } from '@/core/shapes/mesh/triangulate';
import { trianglesOfFaces } from '@/core/islands/unwrap/chart';
import { creases } from '@/core/islands/unwrap/seams';
import { stretchOn } from '@/core/islands/unwrap/stretch';
import { unwrap, usualSteps } from '@/core/islands/unwrap/unwrap';
import { handOffArchive } from '@/data/handOffArchive';
import { wordsOf } from '@/core/ground/wordsOf';
import { neverSeen } from '@/workers/rays';
import { cutAsked, cutFile, dissolveAsked, dissolveFile } from './headlessCut';
import { reduceFile, reductionAsked } from './headlessReduce';
import { nodeCodecs, startNodePictures } from './nodePlatform';

const usage = `Usage:
  npm run -s headless -- inspect FILE...
  npm run -s headless -- color FILE --by material|part|vertex-color --colors N --out DIR
  npm run -s headless -- adopt FILE --tolerance T --out DIR
  npm run -s headless -- reduce PICTURE --colors N --size W --dither none|ordered|diffusion --out PNG
  npm run -s headless -- cut FILE --plane NX,NY,NZ,D --out OUT.glb
  npm run -s headless -- dissolve FILE --angle D --out OUT.glb
  npm run -s headless -- unwrap FILE --seams crease:ANGLE|all|none --out OUT.glb
  npm run -s headless -- hand-off KIT.oligochrome.zip --plan NAME --out DIR
  npm run -s headless -- pick FILE --scope part|flat|smooth|ring|facing|like --face I [--edge K] [--angle D] [--measure clicked|neighbour]
  npm run -s headless -- symmetry FILE
  npm run -s headless -- hidden FILE
  npm run -s headless -- palette FILE...
  npm run -s headless -- convert-palette IN OUT`;

const pickScopes = ['part', 'flat', 'smooth', 'ring', 'facing', 'like'] as const;
/** Sides of the sheet that a model is unwrapped onto, in texels. */
const unwrapSide = 1024;

await main();

async function main(): Promise<void> {
  const [command, ...rest] = process.argv.slice(2);
  if (command === 'inspect' && rest.length) process.exitCode = await inspect(rest);
  else if (command === 'color') await color(rest);
  else if (command === 'adopt') await adopt(rest);
  else if (command === 'reduce') await reduce(rest);
  else if (command === 'cut') await remesh(rest, cutAsked, cutFile);
  else if (command === 'dissolve') await remesh(rest, dissolveAsked, dissolveFile);
  else if (command === 'unwrap') await unwrapCommand(rest);
  else if (command === 'hand-off') await handOff(rest);
  else if (command === 'pick') await pick(rest);
  else if (command === 'symmetry' && rest.length === 1) await answer(rest[0]!, ({ mesh }) => symmetryOf(mesh));
  else if (command === 'hidden' && rest.length === 1) await answer(rest[0]!, ({ mesh }) => hiddenOf(mesh));
  else if (command === 'palette' && rest.length) process.exitCode = inspectPalettes(rest);
  else if (command === 'convert-palette' && rest.length === 2) convertPalette(rest[0]!, rest[1]!);
  else fail(usage);
}

function fail(message: string): never {
  console.error(message);
  process.exit(2);
}

async function read(path: string, mendQuads = true): Promise<ReadModelResult> {
  const stats = fileStats(path);
  // The size is looked at before the bytes are loaded.
  if (stats.size > limits.bytes)
    throw new Error(
      `${baseName(path)}: it has ${Math.round(stats.size / 1048576)} MB; files up to ${limits.bytes / 1048576} MB can be read.`,
    );
  const bytes = new Uint8Array(readFileSync(path));
  const beside: NamedFile[] = readdirSync(dirname(path)).flatMap((name) => {
    const isUseful = /\.(mtl|bin|png|jpe?g|webp|ktx2?)$/i.test(name);
    const size = isUseful ? statSync(join(dirname(path), name)).size : Infinity;
    return size <= limits.bytes ? [{ name, bytes: new Uint8Array(readFileSync(join(dirname(path), name))) }] : [];
  });
  return readModel({ name: baseName(path), bytes }, beside, { codecs: nodeCodecs, mendQuads });
}

function fileStats(path: string): Stats {
  const stats = statSync(path, { throwIfNoEntry: false });
  if (!stats?.isFile()) throw new Error(`${baseName(path)}: ${stats ? 'it is a folder, not a file.' : 'there is no such file.'}`);
  return stats;
}

function messageOf(error: unknown): string {
  return error instanceof Error ? error.message : String(error);
}

/** Prints what is made of a model, or what is wrong with its file. */
async function answer(path: string, make: (result: ReadModelResult) => object): Promise<void> {
  await print(path, async () => make(await read(path)));
}

async function print(path: string, make: () => Promise<object>): Promise<void> {
  try {
    console.log(JSON.stringify(await make()));
  } catch (error) {
    console.log(JSON.stringify({ file: path, error: messageOf(error) }));
    process.exitCode = 1;
  }
}

function symmetryOf(mesh: PolyMesh): object {
  const { axis, offset, matched, unmatched } = findSymmetry(mesh, adjacencyOf(mesh));
  return { axis, offset, matched, unmatched };
}

function hiddenOf(mesh: PolyMesh): object {
  return { faces: [...neverSeen(mesh)] };
}

/** The files of a kit's plan, and the report of them. */
async function handOff(args: string[]): Promise<void> {
  const { values, positionals } = parseArgs({
    args,
    allowPositionals: true,
    options: { plan: { type: 'string' }, out: { type: 'string' } },
  });
  const [file] = positionals;
  if (positionals.length !== 1 || !file || !values.out) return fail(usage);
  startNodePictures();
  try {
    const { files, report, leftOut } = await handOffArchive(baseName(file), new Uint8Array(readFileSync(file)), values.plan ?? '', {
      codecs: nodeCodecs,
      unseenOf: neverSeen,
    });
    for (const { name, bytes } of files) {
      mkdirSync(dirname(join(values.out, name)), { recursive: true });
      writeFileSync(join(values.out, name), bytes);
    }
    for (const words of leftOut) console.error(words);
    console.log(JSON.stringify(report, null, 2));
  } catch (error) {
    fail(wordsOf(error));
  }
}

async function pick(args: string[]): Promise<void> {
  const { values, positionals } = parseArgs({
    args,
    allowPositionals: true,
    options: {
      scope: { type: 'string' },
      face: { type: 'string' },
      edge: { type: 'string', default: '0' },
      angle: { type: 'string', default: '20' },
      measure: { type: 'string' },
    },
  });
  const [path] = positionals;
  const scope = pickScopes.find((s) => s === values.scope);
  const whole = (text: string | undefined) => (text !== undefined && /^\d+$/.test(text) ? Number(text) : NaN);
  const [face, edge, angle] = [whole(values.face), whole(values.edge), Number(values.angle)];
  if (!path || !scope) fail(`--scope takes one of ${pickScopes.join(', ')}.\n${usage}`);
  if (Number.isNaN(face)) fail('--face takes the number of a face, from 0.');
  if (Number.isNaN(edge)) fail('--edge takes the number of an edge, from 0: corner K to K+1.');
  if (!(angle >= 0 && angle <= 180)) fail('--angle takes degrees from 0 to 180.');
  if (values.measure && values.measure !== 'clicked' && values.measure !== 'neighbour') fail('--measure takes clicked or neighbour.');
  await answer(path, ({ mesh }) => {
    if (face >= faceCount(mesh)) throw new Error(`The model has ${faceCount(mesh)} faces; there is no face ${face}.`);
    const corners = mesh.faceStart[face + 1]! - mesh.faceStart[face]!;
    if (edge >= corners) throw new Error(`Face ${face} has ${corners} edges; there is no edge ${edge}.`);
    // How far a face may turn is measured from the clicked face, or from neighbour to neighbour.
    const measured =
      values.measure && (scope === 'flat' || scope === 'smooth') ? (values.measure === 'clicked' ? 'flat' : 'smooth') : scope;
    const context = { mesh, adjacency: adjacencyOf(mesh), cells: new Uint16Array(faceCount(mesh)) };
    return { faces: [...facesOf(context, { scope: measured, face, edge, angle })!].sort((a, b) => a - b) };
  });
}

interface OpenedPalette {
  kind: string;
  name?: string;
  colors: PaletteColor[];
  notes: string[];
  grid?: { columns: number; rows: number; block: number | [number, number]; gutter: number };
  gradients: number;
}

/** A palette file, or what is recognised in a picture. */
function openPalette(path: string): OpenedPalette {
  fileStats(path);
  const bytes = new Uint8Array(readFileSync(path));
  if (!probePicture(bytes)) return { ...readPalette(baseName(path), bytes), gradients: 0 };
  startNodePictures();
  const finding = recognise(decodePicture(baseName(path), bytes));
  const { grid } = finding;
  return {
    kind: finding.kind,
    ...(grid && { grid: { ...grid, block: grid.block[0] === grid.block[1] ? grid.block[0] : grid.block } }),
    gradients: countBlocks(finding).gradients,
    colors: colorsOfFinding(finding).map((color) => ({ color })),
    notes: finding.kind === 'picture' ? ['Neither blocks nor gradients were found in it.'] : [],
  };
}

function inspectPalettes(files: string[]): number {
  let code = 0;
  for (const file of files) {
    try {
      const { kind, name, grid, gradients, colors, notes } = openPalette(file);
      console.log(
        JSON.stringify({ file, kind, ...(name && { name }), ...(grid && { grid }), gradients, colors: colors.map((c) => c.color), notes }),
      );
    } catch (error) {
      code = 1;
      console.log(JSON.stringify({ file, error: messageOf(error) }));
    }
  }
  return code;
}

function convertPalette(from: string, to: string): void {
  try {
    const { colors, name, notes } = openPalette(from);
    if (!colors.length) throw new Error(`${baseName(from)}: no color was found in it.`);
    writeFileSync(to, writePalette(kindOfExtension(baseName(to)), colors, name ?? stemOf(from)));
    console.log(JSON.stringify({ file: to, colors: colors.length, notes }));
  } catch (error) {
    console.log(JSON.stringify({ file: from, error: messageOf(error) }));
    process.exitCode = 1;
  }
}

async function inspect(files: string[]): Promise<number> {
  let code = 0;
  for (const file of files) {
    try {
      const { mesh, format, facesRead, trianglesRead } = await read(file, false);
      const adjacency = adjacencyOf(mesh);
      const report = {
        file,
        format: extensionOf(file) === 'glb' ? 'glb' : format,
        faces: facesRead,
        triangles: trianglesRead,
        vertices: adjacency.pointCount,
        parts: adjacency.partStart.length - 1,
        materials: materialCount(mesh),
        uvSets: mesh.uvSets.length,
        vertexColors: mesh.cornerColors !== undefined,
        problems: inspectMesh(mesh).map(({ kind, count }) => ({ kind, count })),
      };
      console.log(JSON.stringify(report));
    } catch (error) {
      code = 1;
      console.log(JSON.stringify({ file, error: messageOf(error) }));
    }
  }
  return code;
}

async function color(args: string[]): Promise<void> {
  const { values, positionals } = parseArgs({
    args,
    allowPositionals: true,
    options: {
      by: { type: 'string', default: 'material' },
      colors: { type: 'string', default: '16' },
      out: { type: 'string', default: '.' },
    },
  });
  const [path] = positionals;
  const count = Number(values.colors);
  if (!path || positionals.length !== 1) fail(usage);
  if (!Number.isInteger(count) || count < 1 || count > 4096) fail(`--colors takes a whole number from 1 to 4096, not “${values.colors}”.`);
  await print(path, () => colorFile(path, values.by, count, values.out));
}

async function colorFile(path: string, by: string, count: number, out: string) {
  const result = await read(path);
  const { mesh } = result;
  let state = kitWith(result);
  const model = state.kit.models[0]!;
  const plan = await planColors(state, result, by, count);
  // A fresh sheet: the starter's colors make room for the model's own.
  const sheet = findSheet(state.kit, model.sheet);
  state = {
    ...state,
    kit: { ...state.kit, sheets: [{ ...sheet, cells: sheet.cells.map((c) => ({ ...c, role: '', fill: { kind: 'spare' } })), ramps: [] }] },
  };
  const edit = seatColors(state, model.id, plan.groups);
  if (edit) state = applyEdit(state, edit);
  const item = { model, mesh, seats: state.seats[model.id]!, files: result.keep };
  const name = safeName(result.name);
  mkdirSync(out, { recursive: true });
  const glb = await writeGlb(state.kit, [item], { codecs: nodeCodecs });
  writeFileSync(join(out, `${name}.glb`), glb);
  for (const file of writeObj(state.kit, [item], name)) writeFileSync(join(out, file.name), file.bytes);
  const painted = findSheet(state.kit, model.sheet);
  writeFileSync(join(out, 'sheet.png'), encodePng(rasterSheet(painted)));
  return {
    before: await costBefore(result),
    after: costOfGltf((await openGltf('out.glb', glb)).document),
    colors: usableCells(painted).length,
    maxDeltaE: plan.maxDeltaE,
  };
}

async function adopt(args: string[]): Promise<void> {
  const { values, positionals } = parseArgs({
    args,
    allowPositionals: true,
    options: { tolerance: { type: 'string', default: String(usualTolerance) }, out: { type: 'string', default: '.' } },
  });
  const [path] = positionals;
  const tolerance = Number(values.tolerance);
  if (!path || positionals.length !== 1) fail(usage);
  if (!(tolerance >= 0 && tolerance <= 1)) fail(`--tolerance takes an OKLab distance from 0 to 1, not “${values.tolerance}”.`);
  await print(path, () => adoptFile(path, tolerance, values.out));
}

/** Takes the picture that most faces show apart, and writes the model on the sheet that comes of it. */
async function adoptFile(path: string, tolerance: number, out: string) {
  const result = await read(path);
  const { mesh, keep } = result;
  startNodePictures();
  const shown = [...(await readPictures(keep, nodeCodecs, () => undefined))]
    .map(([name, raster]) => {
      return { name, raster, faces: facesWhere(faceCount(mesh), (f) => mesh.slots[mesh.faceSlot[f]!]!.picture?.toLowerCase() === name) };
    })
    .sort((a, b) => b.faces.length - a.faces.length)[0];
  if (!shown?.faces.length || !mesh.uvSets[0]) throw new Error(`${baseName(path)}: no face of it shows a picture.`);
  const { raster, faces } = shown;
  const apart = takeApart(raster, recognise(raster), [{ mesh, faces }], tolerance);
  const before = kitWith(result);
  const model = before.kit.models[0]!;
  const picture = { name: stemOf(shown.name), width: raster.width, height: raster.height, art: 'picture' };
  const made = apartSheet(before, picture, apart, [{ id: model.id, faces, faceStart: mesh.faceStart }]);
  const state = applyEdit(before, made.edit);
  const kept = apart.blocks.find((b) => b.fill.kind === 'art');
  const art = cropRaster(raster, kept?.rect ?? { x: 0, y: 0, w: 1, h: 1 });
  const pictures = new Map([['picture', { bytes: encodePng(art), raster: art }]]);
  const item = { model: findModel(state.kit, model.id), mesh, seats: state.seats[model.id]!, files: keep };
  mkdirSync(out, { recursive: true });
  const glb = await writeGlb(state.kit, [item], { codecs: nodeCodecs, pictures });
  writeFileSync(join(out, `${safeName(result.name)}.glb`), glb);
  const sheet = encodePng(rasterSheet(made.sheet, new Map([['picture', art]])));
  writeFileSync(join(out, 'sheet.png'), sheet);
  const count = (kind: string) => apart.blocks.filter((b) => b.fill.kind === kind).length;
  return {
    cells: { solid: count('solid'), gradient: count('gradient'), art: count('art') },
    faces: apart.faces,
    textureBytes: { before: (await costBefore(result)).textureBytes, after: sheet.length },
    maxDeltaE: apart.largest,
  };
}

async function reduce(args: string[]): Promise<void> {
  let asked;
  try {
    asked = reductionAsked(args);
  } catch (error) {
    fail(`${messageOf(error)}\n${usage}`);
  }
  await print(asked.path, async () => reduceFile(asked));
}

/** What is asked of a model's mesh, done and written. */
async function remesh<T extends { path: string }>(
  args: string[],
  askedOf: (args: string[]) => T,
  make: (result: ReadModelResult, state: KitState, asked: T) => Promise<object>,
): Promise<void> {
  let asked: T;
  try {
    asked = askedOf(args);
  } catch (error) {
    fail(`${messageOf(error)}\n${usage}`);
  }
  await print(asked.path, async () => {
    const result = await read(asked.path);
    return make(result, kitWith(result), asked);
  });
}

async function unwrapCommand(args: string[]): Promise<void> {
  const { values, positionals } = parseArgs({
    args,
    allowPositionals: true,
    options: { seams: { type: 'string', default: 'none' }, out: { type: 'string', default: 'unwrapped.glb' } },
  });
  const [path] = positionals;
  if (!path || positionals.length !== 1) fail(usage);
  const angle = /^crease:(\d+(?:\.\d+)?)$/.exec(values.seams)?.[1];
  if (angle === undefined && values.seams !== 'all' && values.seams !== 'none')
    fail(`--seams takes crease:ANGLE in degrees, all or none, not “${values.seams}”.`);
  await print(path, () => unwrapFile(path, angle === undefined ? (values.seams as 'all' | 'none') : Number(angle), values.out));
}

/** Unwraps a model onto a sheet of its own, which shows a checker of texels. */
async function unwrapFile(path: string, seams: 'all' | 'none' | number, out: string) {
  const result = await read(path);
  const { mesh } = result;
  const adjacency = adjacencyOf(mesh);
  const surface = { mesh, adjacency, triangles: triangulate(mesh, adjacency.normals) };
  const faces = Uint32Array.from(adjacency.areas.keys());
  const marked = new Set(typeof seams === 'number' ? creases(adjacency, faces, seams) : []);
  const isSeam = (c: number) => seams === 'all' || marked.has(edgeCorner(adjacency, c));
  const laid = unwrap(surface, faces, isSeam, { steps: usualSteps, mayCut: true });
  if ('closed' in laid) throw new Error(`${baseName(path)}: it cannot be laid flat.`);
  const before = kitWith(result);
  const model = before.kit.models[0]!;
  const whole = { x: 0, y: 0, w: unwrapSide, h: unwrapSide };
  const cell: Cell = { id: before.kit.nextCell, rect: whole, role: 'unwrapped', fill: { kind: 'art', picture: 'checker' } };
  const sheet = { ...findSheet(before.kit, model.sheet), width: unwrapSide, height: unwrapSide, cells: [cell], ramps: [] };
  const { texels } = packIslands(surface, laid.islands, laid.places, cell, { margin: 4, clearance: 2, mayTurn: true });
  const state = { ...before, kit: { ...before.kit, sheets: [sheet], nextCell: cell.id + 1 } };
  const edit = layAt(state, model.id, mesh.faceStart, faces, cell.id, texels, 'Unwrap');
  const { seats } = edit ? applyEdit(state, edit) : state;
  const art = checker(unwrapSide, unwrapSide, 32);
  const pictures = new Map([['checker', { bytes: encodePng(art), raster: art }]]);
  mkdirSync(dirname(out), { recursive: true });
  writeFileSync(
    out,
    await writeGlb(state.kit, [{ model, mesh, seats: seats[model.id]!, files: result.keep }], { codecs: nodeCodecs, pictures }),
  );
  const stretch = stretchOn(mesh, surface.triangles, faces, texels, trianglesOfFaces(surface.triangles, faces.length));
  const area = stretch.density.reduce((sum, d, f) => sum + d * d * adjacency.areas[f]!, 0);
  const islands = laid.islands.map((list) => ({ cell: cell.id, faces: list, bounds: boundsOfIsland(list, mesh.faceStart, texels) }));
  return {
    islands: laid.islands.length,
    areaStretch: stretch.areaStretch,
    angleStretch: stretch.angleStretch,
    flipped: laid.flipped,
    overlaps: laid.overlapping + overlaps(islands, mesh.faceStart, texels, sheet).length,
    fill: area / unwrapSide ** 2,
  };
}

function kitWith({ name, mesh, format, keep }: ReadModelResult): KitState {
  const kit = newKit(name);
  const model: Model = {
    id: newId('m'),
    name,
    mesh: '',
    faces: faceCount(mesh),
    sheet: kit.sheets[0]!.id,
    regions: [],
    slots: [],
    source: { format, name, files: keep.map((f) => ({ name: f.name, content: '' })) },
    seams: [],
  };
  return { kit: { ...kit, models: [model] }, seats: byId({ [model.id]: emptySeats(faceCount(mesh)) }) };
}

interface ColorPlan {
  groups: SourceColor[];
  maxDeltaE: number;
}

async function planColors(state: KitState, { mesh }: ReadModelResult, by: string, count: number): Promise<ColorPlan> {
  switch (by) {
    case 'material': {
      const all = mesh.slots.flatMap((slot, i) => {
        const faces = Uint32Array.from({ length: faceCount(mesh) }, (_, f) => f).filter((f) => mesh.faceSlot[f] === i);
        return faces.length ? [{ name: slot.name, color: slot.color, faces }] : [];
      });
      return reduceColors(all, count);
    }
    case 'vertex-color': {
      if (!mesh.cornerColors) throw new Error('The model has no vertex colors.');
      const { colors, maxError } = vertexColorGroups(mesh, count);
      return { groups: colors, maxDeltaE: maxError };
    }
    case 'part':
      return { groups: partsByArea(state, mesh, count), maxDeltaE: 0 };
    default:
      throw new Error(`--by takes material, part or vertex-color, not “${by}”.`);
  }
}

/** At most `count` colors for the materials, weighted by their faces. */
function reduceColors(all: SourceColor[], count: number): ColorPlan {
  const { colors, assignment, maxError } = quantize(
    all.map((m) => ({ rgb: rgbFromHex(m.color), weight: m.faces.length })),
    count,
  );
  return { groups: all.map((m, i) => ({ ...m, color: hexFromRgb(colors[assignment[i]!]!) })), maxDeltaE: maxError };
}

/** Parts by falling area take the cells in turn. */
function partsByArea(state: KitState, mesh: ReadModelResult['mesh'], count: number): SourceColor[] {
  const { part, partStart, partFaces, areas } = adjacencyOf(mesh);
  const size = new Float64Array(partStart.length - 1);
  part.forEach((p, f) => (size[p]! += areas[f]!));
  const order = Array.from(size.keys()).sort((a, b) => size[b]! - size[a]! || a - b);
  const palette = distinctColors(state, count);
  return order.map((p, i) => ({
    name: `part color ${(i % count) + 1}`,
    color: palette[i % count]!,
    faces: partFaces.slice(partStart[p]!, partStart[p + 1]!),
  }));
}

/** The starter palette's colors first; more are spread around its hues. */
function distinctColors(state: KitState, count: number): string[] {
  const colors = usableCells(state.kit.sheets[0]!).flatMap((c) => (c.fill.kind === 'solid' ? [c.fill.color] : []));
  for (let i = 0; colors.length < count; i++) {
    const candidate = hexFromRgb([(i * 97 + 40) % 256, (i * 57 + 90) % 256, (i * 151 + 140) % 256]);
    if (!colors.includes(candidate)) colors.push(candidate);
  }
  return colors.slice(0, count);
}

async function costBefore(result: ReadModelResult): Promise<Cost> {
  const { mesh, keep, format } = result;
  if (format === 'gltf') return costOfGltf((await openKept(keep, nodeCodecs)).document);
  const pictures = keep.filter((f) => !/\.mtl$/i.test(f.name));
  return costAsRead(
    mesh,
    measureFaces(mesh).normals,
    pictures.reduce((sum, f) => sum + f.bytes.length, 0),
  );
}
