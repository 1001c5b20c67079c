import { createHash, randomUUID } from 'node:crypto';
import { mkdir, open, readFile, rename } from 'node:fs/promises';
import { join } from 'node:path';

/** Attachments as files named by their SHA-256; what is written once never changes. */
export class BlobStore {
  constructor(private readonly folder: string) {}

  /** Writes durably and answers with the name to keep. */
  async put(bytes: Buffer): Promise<string> {
    const name = createHash('sha256').update(bytes).digest('hex');
    const folder = join(this.folder, name.slice(0, 2));
    await mkdir(folder, { recursive: true });
    const draft = join(folder, `.${randomUUID()}`);
    const file = await open(draft, 'w');
    try {
      await file.writeFile(bytes);
      await file.sync();
    } finally {
      await file.close();
    }
    await rename(draft, join(folder, name));
    return name;
  }

  /** @throws where the file is missing */
  async get(name: string): Promise<Buffer> {
    return readFile(join(this.folder, name.slice(0, 2), name));
  }
}
