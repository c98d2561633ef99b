// Builds the application where the build is missing or older than its sources, and serves it with the demo kit.
import { spawn } from 'node:child_process';
import { environment, installPackages, run } from './prepare.mjs';

installPackages();
if (run('npm', ['run', '-s', 'build'], { env: environment }) !== 0) process.exit(1);
const port = process.env.PORT ?? '3000';
const server = spawn('node', ['node_modules/next/dist/bin/next', 'start', '-p', port], {
  stdio: ['ignore', 'pipe', 'inherit'],
  env: environment,
});
let isTold = false;
server.stdout.on('data', (data) => {
  if (!isTold && String(data).includes('Ready')) {
    isTold = true;
    console.log(`\nOligochrome is at http://localhost:${port}\nThe demo kit, Brindle Skerry, is one click from there. Stop with Ctrl+C.\n`);
  }
});
for (const signal of ['SIGINT', 'SIGTERM']) process.on(signal, () => server.kill(signal));
server.on('exit', (code) => process.exit(code ?? 0));
