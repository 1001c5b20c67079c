// Runs a command of the built server on the database that npm start made, unless DATABASE_URL names another.
import { spawnSync } from 'node:child_process';
import { existsSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { needBuild, needPackages, top } from './prepare.mjs';

export function runBuilt(file, args) {
  const kept = join(top, '.drumline/database-url');
  const url = process.env.DATABASE_URL ?? (existsSync(kept) ? readFileSync(kept, 'utf8') : undefined);
  if (!url) {
    console.error('There is no database yet. Run npm start first, or name one in DATABASE_URL.');
    process.exit(2);
  }
  needPackages();
  needBuild();
  const { status } = spawnSync('node', [join('dist/server/server/src', file), ...args], {
    cwd: top,
    stdio: 'inherit',
    env: { ...process.env, DATABASE_URL: url },
  });
  process.exit(status ?? 1);
}
