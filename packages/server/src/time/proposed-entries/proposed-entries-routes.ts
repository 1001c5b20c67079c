import { proposedEntryRoutes } from '@core/time';
import { isRefusal, parseLocalDate } from '@core/ground';
import type { App } from '../../app/app';
import { bindRoutes } from '../../app/bind-routes';
import { at } from '../../app/database';
import { addEntry } from '../time-entries/record-time';
import { readProposedEntries } from './read-proposed-entries';

const TIMER = /^timer ([0-9a-f-]{36})$/;

export function bindProposedEntries(app: App) {
  const { house } = app;
  return bindRoutes(app, proposedEntryRoutes, {
    listProposedEntries: async ({ db, query, actor, now }) => ({
      proposed: await readProposedEntries(db, house, { personId: actor.personId!, day: parseLocalDate(query.day), now }),
    }),
    acceptProposedEntries: async ({ work, body }) => {
      for (const [n, { key, ...entry }] of body.entries.entries()) {
        const timerId = TIMER.exec(key)?.[1] ?? null;
        const done = await addEntry(work, house, { ...entry, timerId, billable: true, reason: null });
        if (isRefusal(done))
          return { ...done, fields: Object.fromEntries(Object.entries(done.fields ?? {}).map(([f, m]) => [`entries[${n}].${f}`, m])) };
      }
      return { recorded: body.entries.length };
    },
    dismissProposedEntry: async ({ work, body, actor, now }) => {
      await work
        .tx('proposed_dismissed')
        .insert({ person_id: actor.personId, key: body.key, at: at(now) })
        .onConflict(['person_id', 'key'])
        .ignore();
      await work.emit('entry', null, { personId: actor.personId });
      return { key: body.key };
    },
  });
}
