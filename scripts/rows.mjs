// npm run rows: writes the types of the rows of every table, packages/server/src/app/rows.ts, from the migrated schema.
import { execFileSync } from 'node:child_process';
import { join } from 'node:path';
import { startCluster } from './postgres.mjs';
import { needDebian, needPackages, POSTGRES, top } from './prepare.mjs';

process.chdir(top);
needDebian([POSTGRES]);
needPackages();
const cluster = await startCluster('.drumline/rows', { durable: false });
try {
  execFileSync('node', [join(top, 'node_modules/.bin/tsx'), 'scripts/write-rows.ts'], {
    stdio: 'inherit',
    env: { ...process.env, DRUMLINE_TEST_URL: cluster.url },
  });
} finally {
  cluster.stop();
}
