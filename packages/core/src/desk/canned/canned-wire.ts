import { count, defineRoutes, done, id, list, record, text, yes, type Wire } from '../../ground';

/** A text that is sent again and again; it may hold placeholders such as {first name}. */
export const cannedFormSchema = record({ name: text(60), text: text(5000), shared: yes() });
export type CannedForm = Wire<typeof cannedFormSchema>;
export const cannedSchema = record({
  id: id('canned_reply'),
  version: count(),
  name: text(60),
  text: text(5000),
  /** For all, not just for the one who wrote it. */
  shared: yes(),
  mine: yes(),
});
export type CannedWire = Wire<typeof cannedSchema>;

export const cannedRoutes = defineRoutes({
  listCanned: {
    method: 'GET',
    path: '/canned-replies',
    summary: "Canned replies: the person's own and those for all",
    permission: 'tickets.work',
    answer: record({ replies: list(cannedSchema) }),
  },
  addCanned: {
    method: 'POST',
    path: '/canned-replies',
    summary: 'Keep a canned reply',
    permission: 'tickets.work',
    body: cannedFormSchema,
    answer: done(),
  },
  editCanned: {
    method: 'PUT',
    path: '/canned-replies/:replyId',
    summary: 'Change a canned reply of your own',
    permission: 'tickets.work',
    versioned: true,
    body: cannedFormSchema,
    answer: done(),
  },
  removeCanned: {
    method: 'DELETE',
    path: '/canned-replies/:replyId',
    summary: 'Remove a canned reply of your own',
    permission: 'tickets.work',
    answer: record({ removed: count() }),
  },
});
