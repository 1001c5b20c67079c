import { execFile } from 'node:child_process';
import { mkdtemp, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { promisify } from 'node:util';

interface Cluster {
  readonly url: string;
  readonly port: number;
  readonly folder: string;
  stop(): void;
  kill(): Promise<void>;
}
type StartCluster = (wanted: string, how: { durable: boolean; port?: number }) => Promise<Cluster>;

/** A PostgreSQL of its own with a copy of the demo, for tests that kill it. */
export async function ownCluster() {
  const scripts = join(process.cwd(), 'scripts/postgres.mjs');
  const { startCluster } = (await import(scripts)) as { startCluster: StartCluster };
  const wanted = join(await mkdtemp(join(tmpdir(), 'drumline-cluster-')), 'cluster');
  const first = await startCluster(wanted, { durable: false });
  const from = `${process.env['DRUMLINE_TEST_URL']}/drumline_template`;
  const url = `${first.url}/postgres`;
  // Roles are of a whole cluster, and in no copy of a database.
  const role = `psql -q -c 'create role drumline_scoped nologin' "${url}"`;
  await promisify(execFile)(
    'bash',
    ['-c', `set -eo pipefail; ${role}; pg_dump --no-owner "${from}" | psql -q -v ON_ERROR_STOP=1 "${url}"`],
    {
      maxBuffer: 1 << 26,
    },
  );
  return {
    url,
    kill: () => first.kill(),
    /** Starts it again at the same address; its dead processes may take a moment to go. */
    begin: async () => {
      for (let tries = 0; ; tries++)
        try {
          return void (await startCluster(wanted, { durable: false, port: first.port }));
        } catch (fault) {
          if (tries > 50) throw fault;
          await new Promise((done) => setTimeout(done, 100));
        }
    },
    remove: async () => {
      first.stop();
      await rm(first.folder, { recursive: true, force: true });
    },
  };
}
