// What the benches share: a database of their own, and the built server on it.
import { fork, type ChildProcess } from 'node:child_process';
import { mkdtempSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { openDatabase } from '../packages/server/src/app/database';

const base = process.env['BENCH_URL']!;
export const folder = mkdtempSync(join(tmpdir(), 'drumline-bench-'));
export const say = (what: string, figure: string) => console.log(`${what.padEnd(64)} ${figure}`);

export async function makeDatabase(name: string): Promise<string> {
  const admin = openDatabase(`${base}/postgres`, 1);
  await admin.raw(`drop database if exists ${name} with (force)`);
  await admin.raw(`create database ${name}`);
  await admin.destroy();
  return `${base}/${name}`;
}

export interface Built {
  readonly child: ChildProcess;
  readonly port: number;
  readonly smtpPort: number;
}

export async function startBuilt(url: string, more: Readonly<Record<string, string>> = {}): Promise<Built> {
  const child = fork('dist/server/server/src/app/main.js', [], {
    env: {
      ...process.env,
      DATABASE_URL: url,
      PORT: '0',
      SMTP_PORT: '0',
      SESSION_SECRET: 'a secret for measuring only',
      LEDGER_KEY: 'a key for measuring only',
      FILES_DIR: join(folder, 'files'),
      LOG_LEVEL: 'silent',
      DRUMLINE_NOW: '2026-11-24T10:40:00Z',
      NODE_ENV: 'production',
      ...more,
    },
  });
  return new Promise((done) => child.once('message', (m) => done({ child, ...(m as { port: number; smtpPort: number }) })));
}

/** The figure below which so many of a hundred lie. */
export function percentile(all: readonly number[], of: number): number {
  const sorted = [...all].sort((a, b) => a - b);
  return sorted[Math.min(sorted.length - 1, Math.floor((sorted.length * of) / 100))] ?? NaN;
}
