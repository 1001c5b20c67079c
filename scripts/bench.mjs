// npm run bench: prints ratios and figures, fails on none. Durable settings, one cluster for both sides.
import { spawnSync } from 'node:child_process';
import { CHROMIUM, needBuild, needDebian, needPackages, POSTGRES, top } from './prepare.mjs';
import { postgresBin, startCluster } from './postgres.mjs';

process.chdir(top);
needDebian([POSTGRES, CHROMIUM]);
needPackages();
needBuild();
const cluster = await startCluster('.drumline/bench', { durable: true });
// npm run bench -- scale measures at a million tickets instead; the first time it makes them.
// npm run bench -- load: mail and people at once, and what strangers may do to them.
// npm run bench -- live: a ticket open on many screens while others change.
const which = ['scale', 'load', 'live'].find((name) => process.argv.includes(name)) ?? 'run';
const { status } = spawnSync('node', ['node_modules/.bin/tsx', `scripts/bench-${which}.ts`], {
  stdio: 'inherit',
  env: { ...process.env, BENCH_URL: cluster.url, BENCH_PORT: String(cluster.port), PG_BIN: postgresBin() },
});
cluster.stop();
process.exit(status ?? 1);
