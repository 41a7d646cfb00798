// The last words for both runners: what failed and why, then one line.
import { readFileSync } from 'node:fs';
import { stripVTControlCharacters } from 'node:util';

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

const short = (text) =>
  stripVTControlCharacters(text ?? '')
    .split('\n')
    .slice(0, 25)
    .join('\n    ');

const unitFailures = (unit?.testResults ?? []).flatMap((file) => [
  ...(file.message && !file.assertionResults.length ? [`${file.name}\n    ${short(file.message)}`] : []),
  ...file.assertionResults
    .filter((one) => one.status === 'failed')
    .map((one) => `${file.name}: ${one.fullName}\n    ${short(one.failureMessages.join('\n'))}`),
]);

const specs = (suite) => [...(suite.specs ?? []), ...(suite.suites ?? []).flatMap(specs)];
const e2eFailures = (e2e?.suites ?? [])
  .flatMap(specs)
  .filter((spec) => !spec.ok)
  .map((spec) => {
    const results = spec.tests.flatMap((test) => test.results);
    const errors = results.flatMap((result) => result.errors.map((error) => short(error.message)));
    return `${spec.file}:${spec.line}: ${spec.title}\n    ${errors.join('\n    ')}`;
  });

const slow = (e2e?.suites ?? [])
  .flatMap(specs)
  .map((spec) => ({
    title: `${spec.file}: ${spec.title}`,
    ms: spec.tests.flatMap((t) => t.results).reduce((sum, r) => sum + r.duration, 0),
  }))
  .sort((a, b) => b.ms - a.ms)
  .slice(0, 8);
console.log('\nThe longest of the interface:');
for (const one of slow) console.log(`  ${(one.ms / 1000).toFixed(0)} s  ${one.title}`);
for (const one of [...unitFailures, ...e2eFailures]) console.log(`\nFAILED ${one}`);
if (!unit) console.log('\nFAILED The unit tests left no result.');
if (!e2e) console.log('\nFAILED The interface tests left no result.');
for (const error of e2e?.errors ?? []) console.log(`\nFAILED ${short(error.message)}`);

console.log(`\n${passed} passed, ${failed} failed`);
process.exit(failed ? 1 : 0);
