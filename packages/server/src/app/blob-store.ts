import { createHash, randomUUID } from 'node:crypto';
import { mkdir, open, readFile, rename, rm } from 'node:fs/promises';
import { join } from 'node:path';

/** Files cannot be kept: their folder is gone, full, or not ours to write. Nothing was stored. */
export class FilesAway extends Error {
  constructor(cause: unknown) {
    super(`files cannot be kept: ${cause instanceof Error ? cause.message : String(cause)}`, { cause });
  }
}

/** Attachments as files named by their SHA-256; what is written once never changes. */
export class BlobStore {
  constructor(private readonly folder: string) {}

  /** Makes the folder where a process begins; later it must be there. */
  async begin(): Promise<void> {
    await mkdir(this.folder, { recursive: true });
  }

  /** Writes durably and answers with the name to keep. */
  async put(bytes: Buffer): Promise<string> {
    const name = createHash('sha256').update(bytes).digest('hex');
    const folder = join(this.folder, name.slice(0, 2));
    const draft = join(folder, `.${randomUUID()}`);
    try {
      // The store itself is there or it is gone, such as a disk that is not mounted: it is never made anew in silence.
      await mkdir(folder).catch((fault: { code?: string }) => fault.code === 'EEXIST' || Promise.reject(fault));
      await this.write(draft, bytes);
      await rename(draft, join(folder, name));
    } catch (fault) {
      await rm(draft, { force: true }).catch(() => undefined);
      throw new FilesAway(fault);
    }
    return name;
  }

  private async write(path: string, bytes: Buffer): Promise<void> {
    const file = await open(path, 'w');
    try {
      await file.writeFile(bytes);
      await file.sync();
    } finally {
      await file.close();
    }
  }

  /** @throws where the file is missing */
  async get(name: string): Promise<Buffer> {
    return readFile(join(this.folder, name.slice(0, 2), name));
  }
}
