#!/usr/bin/env bash
# npm test: everything a fresh machine needs, then lint, types, unit and server tests, and journeys through the real page.
# Its last line is "N passed, N failed".
set -uo pipefail
cd "$(dirname "${BASH_SOURCE[0]}")/.."
. bin/lib.sh
export KESTFOG_DATA=$PWD/node_modules/.cache/kestfog-test-$$
results=$PWD/node_modules/.cache/kestfog-results-$$
. bin/pg.sh
unset NODE_ENV FORCE_COLOR

need_node
need_package pg_installed postgresql "PostgreSQL"
need_package 'command -v chromium >/dev/null' chromium "Chromium, the browser of the journeys,"
need_package 'command -v certutil >/dev/null' libnss3-tools "certutil, by which a browser of the journeys trusts the kitchen,"
need_modules
mkdir -p "$results"

finish() {
  trap '' INT TERM
  (pg_stop) || true
  rm -rf "$KESTFOG_DATA" "$results" "$PWD/node_modules/.cache/kestfog-e2e-$$"
}
trap finish EXIT
trap 'exit 130' INT
trap 'exit 143' TERM

check() { # check NAME COMMAND…: a step without a test report of its own counts as one test
  local name=$1
  shift
  say "── $name"
  if "$@"; then echo '{"passed":1,"failed":0}' >"$results/$name.json"; else echo '{"passed":0,"failed":1}' >"$results/$name.json"; fi
}

check lint node_modules/.bin/biome check --error-on-warnings .
check types node_modules/.bin/tsc -b
need_build
pg_start

say "── unit and server tests"
node_modules/.bin/vitest run --reporter=default --reporter=json --outputFile.json="$results/vitest.json"
[ $? = 0 ] || [ -s "$results/vitest.json" ] || echo '{"passed":0,"failed":1}' >"$results/vitest-crash.json"
say "── journeys"
(cd e2e && E2E_DATA=$$ PLAYWRIGHT_JSON_OUTPUT_NAME="$results/playwright.json" \
  ../node_modules/.bin/playwright test --project=journeys --reporter=list,json)
[ $? = 0 ] || [ -s "$results/playwright.json" ] || echo '{"passed":0,"failed":1}' >"$results/playwright-crash.json"

node - "$results" <<'JS'
const fs = require('node:fs');
const dir = process.argv[2];
let passed = 0;
let failed = 0;
/** What failed and why, a line each, at the very end: the log above is long. */
const why = [];
const shown = [];
const plain = (text) => text.replace(/\u001b\[[0-9;]*m/g, '').replace(/\s+/g, ' ').slice(0, 300);
/** Journeys that failed, and those that passed only when they were tried once more; the latter count as passed, and are to be looked at. */
const troubleIn = (suite) => [
  ...(suite.suites ?? []).flatMap(troubleIn),
  ...(suite.specs ?? []).flatMap((s) => {
    const failures = s.tests.flatMap((t) => t.results).filter((r) => !['passed', 'skipped'].includes(r.status));
    if (failures.length === 0) return [];
    const at = failures[0].error?.location;
    const where = at ? `${at.file.split('/').pop()}:${at.line}` : s.file;
    shown.push(`── what the page showed at ${where}`, ...seenIn(failures[0]));
    return [`${s.ok ? '≈ passed at the second try' : '✘'} ${where}: ${s.title.slice(0, 80)}: ${plain(failures[0].error?.message ?? '')}`];
  }),
];
/** What the page showed when a journey failed, as a screen reader has it. */
const seenIn = ({ attachments = [] }) => {
  const kept = attachments.find((a) => a.name === 'error-context')?.path;
  if (!kept || !fs.existsSync(kept)) return [];
  const snapshot = fs.readFileSync(kept, 'utf8').split('```yaml\n')[1]?.split('```')[0] ?? '';
  const lines = snapshot.split('\n').filter((l) => l.trim() && !/^\s*- \/url:/.test(l));
  return lines.slice(0, SHOWN_LINES).map((l) => `    ${l.slice(0, 160)}`);
};
const SHOWN_LINES = 50;
for (const file of fs.readdirSync(dir).filter((f) => f.endsWith('.json'))) {
  const j = JSON.parse(fs.readFileSync(`${dir}/${file}`, 'utf8'));
  if ('passed' in j) {
    passed += j.passed;
    failed += j.failed;
  } else if ('numPassedTests' in j) {
    passed += j.numPassedTests;
    // A file that could not even be loaded has no test of its own to fail.
    for (const file of j.testResults)
      for (const t of file.assertionResults)
        if (t.status === 'failed') why.push(`✘ ${file.name.split('/').pop()}: ${t.title.slice(0, 80)}: ${plain(t.failureMessages[0] ?? '')}`);
    // Nor has one whose set-up fails: its tests count as skipped.
    const broken = j.testResults.filter((r) => r.status === 'failed' && !r.assertionResults.some((t) => t.status === 'failed'));
    for (const r of broken) why.push(`✘ ${r.name.split('/').pop()}: ${plain(r.message || 'its set-up failed, so that its tests were not run')}`);
    failed += j.numFailedTests + broken.length;
    if (j.numPassedTests === 0) failed += 1;
  } else if ('stats' in j) {
    passed += j.stats.expected + j.stats.flaky;
    failed += j.stats.unexpected + j.errors.length;
    if (j.stats.expected === 0) failed += 1;
    why.push(...j.suites.flatMap(troubleIn));
  }
}
for (const line of [...shown, ...why]) console.log(line);
console.log(`${passed} passed, ${failed} failed`);
process.exitCode = failed > 0 || passed === 0 ? 1 : 0;
JS
