import { once } from 'node:events';
import type { PoolClient } from 'pg';
import { from as copyFrom } from 'pg-copy-streams';

type Value = string | number | boolean | null | readonly string[];

/** A table that is filled by COPY, row after row, with the server's own pace. */
export class CopyRows {
  private readonly stream;
  private buffer: string[] = [];

  constructor(
    client: PoolClient,
    table: string,
    private readonly columns: readonly string[],
  ) {
    this.stream = client.query(copyFrom(`copy ${table} (${columns.join(', ')}) from stdin`));
  }

  async add(row: Readonly<Record<string, Value>>): Promise<void> {
    this.buffer.push(this.columns.map((name) => textOf(row[name] ?? null)).join('\t'));
    if (this.buffer.length >= 500) await this.flush();
  }

  private async flush(): Promise<void> {
    if (!this.buffer.length) return;
    const text = `${this.buffer.join('\n')}\n`;
    this.buffer = [];
    if (!this.stream.write(text)) await once(this.stream, 'drain');
  }

  async end(): Promise<void> {
    await this.flush();
    const done = Promise.race([once(this.stream, 'finish'), once(this.stream, 'error').then(([fault]) => Promise.reject(fault as Error))]);
    this.stream.end();
    await done;
  }
}

/** A value as COPY's text format has it. */
function textOf(value: Value): string {
  if (value === null) return '\\N';
  if (Array.isArray(value)) return escaped(`{${value.map((v) => `"${String(v).replace(/["\\]/g, '\\$&')}"`).join(',')}}`);
  return escaped(String(value));
}

function escaped(text: string): string {
  return text.replace(/[\\\t\n\r]/g, (c) => ({ '\\': '\\\\', '\t': '\\t', '\n': '\\n', '\r': '\\r' })[c]!);
}
