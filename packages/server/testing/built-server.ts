import { fork, type ChildProcess } from 'node:child_process';
import type { Config } from '../src/app/config';
import { testConfig } from './test-server';

export interface BuiltServer {
  readonly child: ChildProcess;
  readonly port: number;
  readonly smtpPort: number;
  /** What it has written to its log so far. */
  readonly log: () => string;
}

/** The built server as a process of its own, as it runs for people: it can be killed, and its log read. */
export async function beginBuilt(url: string, folder: string, more: Partial<Config> = {}): Promise<BuiltServer> {
  const { DRUMLINE_NOW: _, ...config } = testConfig(url, folder, more);
  const child = fork('dist/server/server/src/app/main.js', [], {
    env: {
      ...process.env,
      ...Object.fromEntries(Object.entries(config).map(([k, v]) => [k, String(v)])),
      DRUMLINE_NOW: '2026-11-24T10:40:00Z',
      NODE_OPTIONS: '',
    },
    silent: true,
  });
  let log = '';
  child.stdout!.setEncoding('utf8').on('data', (text: string) => (log += text));
  const ports = await new Promise<{ port: number; smtpPort: number }>((ready, failed) => {
    child.once('message', (m) => ready(m as never));
    child.once('exit', (code) => failed(new Error(`the server ended with ${code}`)));
  });
  return { child, ...ports, log: () => log };
}

export const killed = (child: ChildProcess) => new Promise((done) => (child.once('exit', done), child.kill('SIGKILL')));
