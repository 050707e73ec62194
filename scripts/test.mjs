// Everything that must hold: types, lint, boundaries, unit tests, build, journeys. Last line: "N passed, M failed".
import { spawnSync } from 'node:child_process';
import { mkdirSync, readFileSync, rmSync } from 'node:fs';
import { join, relative } from 'node:path';
import { assertNode, ensureChromium, ensureDependencies, root } from './prepare.mjs';

assertNode();
ensureDependencies();
ensureChromium();

const reports = join(root, '.cache');
mkdirSync(reports, { recursive: true });
let passed = 0;
let failed = 0;
/** Titles of tests that passed only when they were tried again: neither passed nor failed, and never silent. */
const flaky = [];
/** What failed, by name: said once more at the end, where a long run is read first. */
const broken = [];

function step(title, args, env = {}) {
  console.log(`\n== ${title}`);
  return spawnSync(process.execPath, args, { cwd: root, stdio: 'inherit', env: { ...process.env, ...env } }).status === 0;
}

/** Titles of the failed tests of a unit report, with their file. */
function brokenIn(files) {
  return files.flatMap((file) => {
    const name = relative(root, file.name);
    const tests = file.assertionResults.filter((test) => test.status === 'failed');
    return tests.length === 0 && file.status === 'failed' ? [name] : tests.map((test) => `${name}: ${test.fullName}`);
  });
}

/** Titles of the tests of a browser report that ended in this way, suite by suite. */
function journeysThat(status, suites = []) {
  return suites.flatMap((suite) => [
    ...(suite.specs ?? []).filter((spec) => spec.tests.some((test) => test.status === status)).map((spec) => spec.title),
    ...journeysThat(status, suite.suites),
  ]);
}

/** A step that is one check. */
function check(title, args) {
  if (step(title, args)) {
    passed++;
    return;
  }
  failed++;
  broken.push(title);
}

/** A step that counts its own tests in a JSON report. A runner that dies without one counts as one failure. */
function suite(title, args, file, count, env) {
  const path = join(reports, file);
  rmSync(path, { force: true });
  const ok = step(title, args, env);
  try {
    const counts = count(JSON.parse(readFileSync(path, 'utf8')));
    passed += counts.passed;
    failed += counts.failed;
    flaky.push(...(counts.flaky ?? []));
    broken.push(...(counts.broken ?? []));
    if (ok || counts.failed > 0) return;
  } catch {
    console.log(`${title} left no report that can be read.`);
  }
  failed++;
  broken.push(title);
}

check('Types', ['node_modules/typescript/bin/tsc', '-p', 'tsconfig.json']);
check('Types of scripts', ['node_modules/typescript/bin/tsc', '-p', 'scripts/tsconfig.json']);
check('Lint', ['node_modules/oxlint/bin/oxlint', '--deny-warnings']);
check('Promises and switches', ['node_modules/oxlint/bin/oxlint', '-c', '.oxlintrc.types.json', '--type-aware', '--deny-warnings']);
check('Format', ['node_modules/prettier/bin/prettier.cjs', '--check', '--log-level', 'warn', '.']);
check('Boundaries', ['scripts/check-boundaries.mjs']);
check('Schemas of answers', ['scripts/schemas.mjs', '--check']);
check('Circles', ['scripts/check-circles.mjs']);
check('Nothing unused', ['node_modules/knip/bin/knip.js', '--no-progress', '--treat-config-hints-as-errors']);
suite(
  'Unit tests',
  ['node_modules/vitest/vitest.mjs', 'run', '--reporter=default', '--reporter=json', '--outputFile.json=.cache/unit.json'],
  'unit.json',
  (report) => ({ passed: report.numPassedTests, failed: report.numFailedTests, broken: brokenIn(report.testResults) }),
);
check('Build', ['node_modules/vite/bin/vite.js', 'build', 'web', '--logLevel', 'warn']);
check('Size of the first screen', ['scripts/check-size.mjs']);
suite(
  'Journeys',
  ['node_modules/@playwright/test/cli.js', 'test', '-c', 'e2e/playwright.config.ts'],
  'journeys.json',
  (report) => ({
    passed: report.stats.expected,
    failed: report.stats.unexpected,
    broken: journeysThat('unexpected', report.suites),
    flaky: journeysThat('flaky', report.suites),
  }),
  { PLAYWRIGHT_JSON_OUTPUT_NAME: join(reports, 'journeys.json') },
);

for (const title of broken) console.log(`Failed: ${title}`);
for (const title of flaky) console.log(`Flaky: ${title}`);
if (flaky.length > 0) console.log(`${flaky.length} flaky, counted apart: not among the passed`);
console.log(`\n${passed} passed, ${failed} failed`);
process.exit(failed === 0 ? 0 : 1);
