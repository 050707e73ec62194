// What a fresh machine lacks: packages, the compiled database driver, a browser for the journeys. Uses Node alone.
import { spawnSync } from 'node:child_process';
import { existsSync, statSync } from 'node:fs';
import { join } from 'node:path';

export const root = join(import.meta.dirname, '..');
export const CHROMIUM = process.env.RED_EMBER_CHROMIUM ?? '/usr/bin/chromium';

export function assertNode() {
  const [major, minor] = process.versions.node.split('.').map(Number);
  if (major > 20 || (major === 20 && minor >= 19)) return;
  console.error(`Red Ember needs Node 20.19 or newer; this is ${process.versions.node}.`);
  process.exit(1);
}

/** Runs a command with its output shown; ends this process where it fails. */
export function run(command, args, options = {}) {
  const result = spawnSync(command, args, { cwd: root, stdio: 'inherit', ...options });
  if (result.status !== 0) {
    console.error(`${command} ${args.join(' ')} failed.`);
    process.exit(result.status ?? 1);
  }
}

function driverLoads() {
  return (
    spawnSync(process.execPath, ['-e', "new (require('better-sqlite3'))(':memory:').close()"], { cwd: root, stdio: 'ignore' }).status === 0
  );
}

/** Installs packages where they are missing or older than the lock file, and compiles the database driver where it does not load. */
export function ensureDependencies() {
  const installed = join(root, 'node_modules/.package-lock.json');
  const lock = join(root, 'package-lock.json');
  if (!existsSync(installed) || statSync(installed).mtimeMs < statSync(lock).mtimeMs) {
    console.log('Installing packages; compiling the database driver takes about two minutes…');
    run('npm', ['ci', '--include=dev', '--no-audit', '--no-fund']);
  }
  if (!driverLoads()) {
    run('npm', ['rebuild', 'better-sqlite3']);
    if (!driverLoads()) {
      console.error('The database driver does not load. It compiles from source: python3, make and g++ are needed.');
      process.exit(1);
    }
  }
}

/** Installs Debian's Chromium where this is root and apt is there; otherwise says what to install. */
export function ensureChromium() {
  if (existsSync(CHROMIUM)) return;
  const canInstall = process.getuid?.() === 0 && existsSync('/usr/bin/apt-get');
  if (!canInstall) {
    console.error(`The journeys need Chromium at ${CHROMIUM}: install Debian's package "chromium", or set RED_EMBER_CHROMIUM.`);
    process.exit(1);
  }
  console.log('Installing Chromium…');
  run('apt-get', ['update', '-qq'], { env: { ...process.env, DEBIAN_FRONTEND: 'noninteractive' } });
  run('apt-get', ['install', '-y', '-qq', 'chromium'], { env: { ...process.env, DEBIAN_FRONTEND: 'noninteractive' } });
}
