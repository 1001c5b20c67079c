import { string } from 'yup';
import { count, defineRoutes, id, record, text, type Wire } from '../routes';

export const MOST_UPLOAD_BYTES = 20 * 1024 * 1024;
export const MOST_UPLOADS = 20;
export const uploadSchema = record({ id: id('upload'), name: text(255), mediaType: text(120), bytes: count() });
export type UploadWire = Wire<typeof uploadSchema>;

export const uploadRoutes = defineRoutes({
  addUpload: {
    method: 'POST',
    path: '/tickets/:ticketId/uploads',
    summary: 'Put a file to a reply or note that is being written; the bytes are the body',
    permission: 'tickets.work',
    upload: MOST_UPLOAD_BYTES,
    query: record({
      name: text(255),
      mediaType: string()
        .trim()
        .lowercase()
        .max(120)
        .matches(/^[a-z0-9.+-]+\/[a-z0-9.+-]+$/, 'a media type such as image/png')
        .default('application/octet-stream'),
    }),
    answer: uploadSchema,
  },
  removeUpload: {
    method: 'DELETE',
    path: '/uploads/:uploadId',
    summary: 'Take a file off again before it is sent',
    permission: 'tickets.work',
    answer: record({ removed: count() }),
  },
});
