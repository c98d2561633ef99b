// What both commands need on a machine with only Node.js: packages, and for tests a browser.
import { spawnSync } from 'node:child_process';
import { existsSync, readFileSync } from 'node:fs';

export function run(command, args, options = {}) {
  const { status } = spawnSync(command, args, { stdio: 'inherit', shell: process.platform === 'win32', ...options });
  return status ?? 1;
}

export const environment = { ...process.env, NEXT_TELEMETRY_DISABLED: '1' };

/** Installs packages where they are missing or older than the lock file. */
export function installPackages() {
  const marker = 'node_modules/.package-lock.json';
  const wanted = JSON.parse(readFileSync('package-lock.json', 'utf8')).packages;
  const has = existsSync(marker) ? JSON.parse(readFileSync(marker, 'utf8')).packages : {};
  const isMissing = Object.entries(wanted).some(([path, { version, optional }]) => path && !optional && has[path]?.version !== version);
  if (isMissing && run('npm', ['ci', '--no-audit', '--no-fund']) !== 0) {
    console.error('The packages could not be installed. Check the connection to the npm registry, then run the command again.');
    process.exit(1);
  }
}

export const browserPaths = [process.env.CHROMIUM_PATH, '/usr/bin/chromium', '/usr/bin/chromium-browser', '/usr/bin/google-chrome'].filter(
  Boolean,
);

/** Installs Debian's Chromium and an independent reader of models where they are missing and this may be done. */
export function installTools() {
  const wanted = [...(browserPaths.some(existsSync) ? [] : ['chromium']), ...(existsSync('/usr/bin/assimp') ? [] : ['assimp-utils'])];
  if (!wanted.length) return;
  const canInstall = process.getuid?.() === 0 && existsSync('/usr/bin/apt-get');
  if (canInstall && run('apt-get', ['update', '-q']) === 0)
    run('apt-get', ['install', '-y', '-q', ...wanted], { env: { ...environment, DEBIAN_FRONTEND: 'noninteractive' } });
  if (browserPaths.some(existsSync)) return;
  console.error(
    'The browser tests need Chromium. Install it (on Debian: sudo apt-get install chromium) or set CHROMIUM_PATH to a browser that is there.',
  );
  process.exit(1);
}
