/**
 * Sets faults into folders of core, one at a time, and tells which of them the unit tests beside them do not
 * notice: `npm run mutate -- faces/seat sheet` (rooms of `src/core`; all that are held to 85 % where none is named).
 * About a second for each fault; not part of `npm test`. With `--tests` every test that meets a fault runs on it, and those
 * are listed that notice no fault which no other notices: candidates to be merged, never a proof that they notice nothing. What was found stays in `node_modules/.cache/mutation`: again are
 * tried only faults in what changed since, and those that tests which changed may notice; `--fresh` tries all.
 */
import { existsSync, mkdirSync, readFileSync, rmSync } from 'node:fs';
import { dirname } from 'node:path';
import { Stryker } from '@stryker-mutator/core';

const held = [
  ...['kit/edit', 'kit/laying', 'kit/colorings', 'sheet', 'sheet/plan', 'sheet/paint', 'shapes/pick', 'shapes/cut', 'shapes/dissolve'],
  ...['faces/seat', 'faces/adopt', 'faces/carry', 'faces/variants', 'islands', 'islands/unwrap'],
  ...['files/gltf', 'files/handoff', 'judging/proof', 'stage'],
];
/** Tests of a room that stand elsewhere: they need what only a worker has, or what stands above the room. */
const elsewhere: Record<string, string[]> = {
  'shapes/pick': ['src/workers/outline.test.ts'],
  'shapes/cut': ['src/core/files/gltf/madeVertices.test.ts', 'src/core/faces/carry/alongCuts.test.ts'],
  'files/gltf': ['src/core/files/formats/read.test.ts', 'src/core/files/formats/leaving.test.ts'],
  sheet: ['src/core/kit/pixels.test.ts'],
  'kit/edit': [
    'src/core/kit/pixels.test.ts',
    'src/core/sheet/paint/paint.test.ts',
    'src/core/faces/seat/seat.test.ts',
    'src/core/stage/stage.test.ts',
    'src/core/stage/cues.test.ts',
  ],
  'kit/laying': ['src/core/faces/seat/layAlong.test.ts', 'src/core/faces/seat/exact.test.ts'],
  'faces/variants': ['src/core/stage/stage.test.ts', 'src/core/stage/cues.test.ts'],
  'kit/colorings': ['src/core/faces/variants/variants.test.ts', 'src/core/sheet/retiring.test.ts'],
};
/** Share of faults that tests must notice. */
const goal = 0.85;
const report = 'test-results/mutation.json';

interface Mutant {
  status: string;
  mutatorName: string;
  replacement?: string;
  killedBy?: string[];
  location: { start: { line: number } };
}

const folders = process.argv.slice(2).filter((a) => !a.startsWith('-'));
const chosen = folders.length ? folders : held;
for (const folder of chosen) {
  if (existsSync(`src/core/${folder}`) || existsSync(`src/core/${folder}.ts`)) continue;
  console.error(`There is no folder src/core/${folder}.`);
  process.exit(1);
}

const cache = 'node_modules/.cache/mutation';
mkdirSync(cache, { recursive: true });

const isAboutTests = process.argv.includes('--tests');
type Named = Record<string, { tests: { id: string; name: string; location?: { start: { line: number } } }[] }>;
/** Of tests that together notice all that is noticed, chosen from those that notice most: the others. */
function spareTests(files: Named, mutants: Mutant[]): string[] {
  const noticedBy = new Map<string, Set<Mutant>>();
  for (const m of mutants) for (const id of m.killedBy ?? []) noticedBy.set(id, (noticedBy.get(id) ?? new Set()).add(m));
  const left = new Set(mutants.filter((m) => m.killedBy?.length));
  const needed = new Set<string>();
  const gain = (id: string) => [...noticedBy.get(id)!].filter((m) => left.has(m)).length;
  while (left.size) {
    const best = [...noticedBy.keys()].reduce((a, b) => (gain(b) > gain(a) ? b : a));
    needed.add(best);
    for (const m of noticedBy.get(best)!) left.delete(m);
  }
  const tests = Object.entries(files).flatMap(([file, { tests }]) => tests.map((t) => ({ ...t, file })));
  return tests
    .filter((t) => !needed.has(t.id))
    .map((t) => `  ${t.file.replace('src/core/', '')}: ${t.name} (notices ${noticedBy.get(t.id)?.size ?? 0})`);
}

let isBelow = false;
for (const folder of chosen) {
  const isFile = existsSync(`src/core/${folder}.ts`);
  // Of a district its own files: the folders inside are rooms of their own.
  const inside = folder.includes('/') ? '**/*' : '*';
  const files = isFile ? [`src/core/${folder}.ts`] : [`src/core/${folder}/${inside}.ts`, `!src/core/${folder}/${inside}.test.ts`];
  process.env.MUTATED = `src/core/${isFile ? dirname(folder) : folder}/${inside}`;
  process.env.MUTATED_ELSEWHERE = (elsewhere[folder] ?? elsewhere[dirname(folder)] ?? []).join(',');
  await new Stryker({
    testRunner: 'vitest',
    mutate: files,
    coverageAnalysis: 'perTest',
    concurrency: 2,
    // Faults in texts are faults of words, which the tests compare only where they matter.
    mutator: { excludedMutations: ['StringLiteral'] },
    ignoreStatic: true,
    timeoutMS: 4_000,
    incremental: true,
    incrementalFile: `${cache}/${folder.replaceAll('/', '-')}${isAboutTests ? '.tests' : ''}.json`,
    disableBail: isAboutTests,
    force: process.argv.includes('--fresh'),
    reporters: ['json', 'progress-append-only'],
    jsonReporter: { fileName: report },
    tempDirName: 'test-results/mutation',
    // The type of its levels is in a package that is not ours.
    logLevel: 'warn' as never,
    vitest: { related: false, configFile: 'scripts/mutate.config.ts' },
  }).runMutationTest();
  const { files: found, testFiles = {} } = JSON.parse(readFileSync(report, 'utf8')) as {
    files: Record<string, { mutants: Mutant[] }>;
    testFiles?: Named;
  };
  const lines: string[] = [];
  let [noticed, all] = [0, 0];
  for (const [name, { mutants }] of Object.entries(found)) {
    const counted = mutants.filter((m) => ['Killed', 'Timeout', 'RuntimeError', 'Survived', 'NoCoverage'].includes(m.status));
    const missed = counted.filter((m) => m.status === 'Survived' || m.status === 'NoCoverage');
    noticed += counted.length - missed.length;
    all += counted.length;
    for (const { location, mutatorName, replacement = '', status } of missed)
      lines.push(
        `  ${name}:${location.start.line} ${mutatorName}${status === 'NoCoverage' ? ', never run' : ''}: ${replacement.replace(/\s+/g, ' ').slice(0, 90)}`,
      );
  }
  isBelow ||= noticed < all * goal;
  console.log(`${folder}: ${noticed} of ${all} faults noticed, ${((100 * noticed) / Math.max(1, all)).toFixed(1)} %`);
  if (process.argv.includes('--list')) console.log(lines.join('\n'));
  if (isAboutTests)
    console.log(
      spareTests(
        testFiles,
        Object.values(found).flatMap((f) => f.mutants),
      ).join('\n'),
    );
}
rmSync('test-results/mutation', { recursive: true, force: true });
process.exitCode = isBelow ? 1 : 0;
