// One closing line for both runners.
import { readFileSync } from 'node:fs';

const read = (file) => {
  try {
    return JSON.parse(readFileSync(file, 'utf8'));
  } catch {
    return null;
  }
};
const unit = read('test-results/unit.json');
const e2e = read('test-results/e2e.json');
const passed = (unit?.numPassedTests ?? 0) + (e2e?.stats?.expected ?? 0);
const failed = (unit ? unit.numFailedTests : 1) + (e2e ? e2e.stats.unexpected + e2e.stats.flaky : 1);
console.log(`\n${passed} passed, ${failed} failed`);
process.exit(failed ? 1 : 0);
