// Everything that must hold, on a fresh machine: lint, types, unit tests, the build, and the journeys in a browser.
import { spawn, spawnSync } from 'node:child_process';
import { mkdirSync, openSync, readFileSync, rmSync } from 'node:fs';
import { environment, installPackages, installTools, run } from './prepare.mjs';

installPackages();
installTools();
rmSync('test-results', { recursive: true, force: true });
mkdirSync('test-results', { recursive: true });
let passed = 0;
let failed = 0;
const count = (isGood, n = 1) => (isGood ? (passed += n) : (failed += n));
const step = (name, args) => {
  console.log(`\n── ${name}`);
  const started = Date.now();
  const isGood = run('npm', ['run', '-s', ...args], { env: environment }) === 0;
  console.log(`${name}: ${isGood ? 'good' : 'FAILED'}, ${((Date.now() - started) / 1000).toFixed(0)} s`);
  return isGood;
};
/** Runs beside other steps; what it says is printed when it has ended. */
function background(name, args) {
  const said = openSync(`test-results/${name}.txt`, 'w');
  const child = spawn('npm', ['run', '-s', ...args], { env: environment, stdio: ['ignore', said, said] });
  return new Promise((resolve) => {
    child.on('exit', (code) => {
      console.log(`\n── ${name}\n${readFileSync(`test-results/${name}.txt`, 'utf8')}`);
      resolve(code === 0);
    });
  });
}
const report = (file) => {
  try {
    return JSON.parse(readFileSync(`test-results/${file}`, 'utf8'));
  } catch {
    return null;
  }
};

spawnSync('node', ['node_modules/next/dist/bin/next', 'typegen'], { env: environment });
const built = step('build', ['build']);
count(built);
// Browsers that are killed mostly wait: meanwhile the rest is done that needs none.
const crashes = built && background('crashes', ['crash', '--', '20']);
const types = background('types', ['types']);
count(step('lint', ['lint']));
count(await types);
const unitRan = step('unit', ['unit', '--', '--reporter=default', '--reporter=json', '--outputFile.json=test-results/unit.json']);
const unit = report('unit.json');
count(true, unit?.numPassedTests ?? 0);
count(false, unit?.numFailedTests ?? 0);
if (!unitRan && !unit?.numFailedTests) count(false);
if (crashes) {
  count(await crashes);
  const ran = step('journeys', ['e2e']);
  const stats = report('e2e.json')?.stats;
  count(true, (stats?.expected ?? 0) + (stats?.flaky ?? 0));
  count(false, stats?.unexpected ?? 0);
  if (stats?.flaky) console.log(`${stats.flaky} journeys passed only the second time: see “flaky” above.`);
  if (!ran && !stats?.unexpected) count(false);
}
console.log(`\n${passed} passed, ${failed} failed`);
process.exitCode = failed ? 1 : 0;
