// Adds up the runners' own reports and prints the one closing line; exit 1 where anything failed or did not report.
import { existsSync, readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';

const folder = process.argv[2];
let passed = 0;
let failed = 0;
const add = (good, bad) => {
  passed += good;
  failed += bad;
};

for (const file of readdirSync(folder).filter((f) => f.startsWith('check-'))) {
  const good = readFileSync(join(folder, file), 'utf8').trim() === 'passed';
  add(good ? 1 : 0, good ? 0 : 1);
}
const read = (name) => (existsSync(join(folder, name)) ? JSON.parse(readFileSync(join(folder, name), 'utf8')) : null);
const vitest = read('vitest.json');
if (vitest) {
  // A file that cannot even be loaded counts as one failure besides its tests.
  const broken = vitest.testResults.filter((r) => r.status === 'failed' && r.assertionResults.length === 0).length;
  add(vitest.numPassedTests, vitest.numFailedTests + broken);
} else add(0, 1);
const playwright = read('playwright.json');
if (process.argv.includes('--fast')) add(0, 0);
else if (playwright) add(playwright.stats.expected, playwright.stats.unexpected + playwright.stats.flaky + (playwright.errors?.length ?? 0));
else add(0, 1);

console.log(`${passed} passed, ${failed} failed`);
process.exitCode = failed === 0 && passed > 0 ? 0 : 1;
