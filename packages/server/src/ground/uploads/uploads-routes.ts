import { basename } from 'node:path';
import { refuse, uploadRoutes } from '@core/ground';
import type { App } from '../../app/app';
import { bindRoutes } from '../../app/bind-routes';
import { at } from '../../app/database';

export function bindUploads(app: App) {
  return bindRoutes(app, uploadRoutes, {
    addUpload: async ({ work, params, query, upload, actor }) => {
      const ticket = await work.tx('ticket').where({ id: params.ticketId }).first('id');
      if (!ticket) return refuse('not-found', 'There is no such ticket.');
      if (!upload?.length) return refuse('invalid', 'The file is empty.', { body: 'the bytes of a file' });
      // On disk before the commit, as with attachments that come by mail.
      const blob = await app.blobs.put(upload);
      const file = { name: basename(query.name.replaceAll('\\', '/')) || 'file', media_type: query.mediaType, bytes: upload.length };
      const [row] = await work
        .tx('upload')
        .insert({ ...file, ticket_id: params.ticketId, person_id: actor.personId, at: at(work.now), blob })
        .returning('id');
      return { id: row!.id, name: file.name, mediaType: file.media_type, bytes: file.bytes };
    },
    removeUpload: async ({ work, params, actor }) => ({
      removed: await work.tx('upload').where({ id: params.uploadId, person_id: actor.personId! }).delete(),
    }),
  });
}
