import type { App } from '../../app/app';
import type { KeptFile } from './file-mail';
import type { MailFile } from './read-mail';

/** Writes a mail's files to disk, before anything of it is committed. @throws FilesAway where the folder is gone or full */
export async function keepFiles(app: App, files: readonly MailFile[]): Promise<KeptFile[]> {
  const kept: KeptFile[] = [];
  for (const { content, ...file } of files) kept.push({ ...file, bytes: content.length, blob: await app.blobs.put(Buffer.from(content)) });
  return kept;
}
