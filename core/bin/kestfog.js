#!/usr/bin/env node
// Committed so that npm links it at install, before anything is built.
import { existsSync } from 'node:fs';

const built = new URL('../dist/cli/main.js', import.meta.url);
if (!existsSync(built)) {
  process.stderr.write('kestfog is not built yet: run "npm run build" once, then try again.\n');
  process.exit(3);
}
const { main } = await import(built.href);
process.exitCode = await main(process.argv.slice(2));
