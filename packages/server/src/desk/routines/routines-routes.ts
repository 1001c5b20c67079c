import { formatInstant, type Instant, isRefusal, type Outcome, parseLocalDate, refuse } from '@core/ground';
import { nextTurn, readRule, routineRoutes, sayRoutine, type RoutineForm } from '@core/desk';
import type { App } from '../../app/app';
import { bindRoutes } from '../../app/bind-routes';
import { at, wireAt } from '../../app/database';
import type { Work } from '../../app/work';
import { addHouseRecord, archiveHouseRecord, editHouseRecord } from '../../house';
import { turnAfter } from './open-routines';

const ROUTINE = { table: 'routine', word: 'routine' };
const TURNS_SHOWN = 6;
const minuteOf = (wall: string): number => Number(wall.slice(0, 2)) * 60 + Number(wall.slice(3));
const wallOf = (minute: number): string => `${String(Math.floor(minute / 60)).padStart(2, '0')}:${String(minute % 60).padStart(2, '0')}`;

export function bindRoutines(app: App) {
  return bindRoutes(app, routineRoutes, {
    listRoutines: async ({ db }) => {
      const rows = await db('routine as r')
        .join('ticket_template as t', 't.id', 'r.template_id')
        .join('client as c', 'c.id', 'r.client_id')
        .join('contact as k', 'k.id', 'r.contact_id')
        .joinRaw('left join lateral (select * from routine_turn x where x.routine_id = r.id order by x.at desc limit 1) l on true')
        .leftJoin('ticket as o', 'o.id', 'l.ticket_id')
        .whereNull('r.archived_at')
        .orderByRaw('lower(r.name)')
        .select(
          'r.*',
          't.name as template',
          'c.name as client',
          'k.name as contact',
          'l.at as last_at',
          'l.trouble',
          'l.ticket_id',
          'o.number',
        );
      return {
        routines: rows.map((r) => ({
          id: r.id,
          version: r.version,
          name: r.name,
          templateId: r.template_id,
          template: r.template,
          clientId: r.client_id,
          client: r.client,
          contactId: r.contact_id,
          contact: r.contact,
          rule: r.rule,
          startsOn: r.starts_on,
          at: wallOf(r.minute),
          says: sayRoutine(r.rule),
          nextAt: wireAt(r.next_at),
          last: r.last_at === null ? null : { at: formatInstant(r.last_at), ticketId: r.ticket_id, number: r.number, trouble: r.trouble },
        })),
      };
    },
    tryRoutine: async ({ body, now }) => {
      const rule = readRule(body.rule);
      if (isRefusal(rule)) return rule;
      const turns: string[] = [];
      for (let t: Instant | undefined = now; turns.length < TURNS_SHOWN; turns.push(formatInstant(t))) {
        t = nextTurn({ rule, startsOn: parseLocalDate(body.startsOn), minute: minuteOf(body.at) }, app.house.house.zone, t);
        if (t === undefined) break;
      }
      return { says: sayRoutine(rule), turns };
    },
    addRoutine: async ({ work, body }) => {
      const columns = await columnsOf(app, work, body);
      return isRefusal(columns) ? columns : addHouseRecord(work, ROUTINE, columns);
    },
    editRoutine: async ({ work, params, version, body }) => {
      const columns = await columnsOf(app, work, body);
      return isRefusal(columns) ? columns : editHouseRecord(work, { record: ROUTINE, id: params.routineId, version, row: columns });
    },
    archiveRoutine: ({ work, params, version }) => archiveHouseRecord(work, { record: ROUTINE, id: params.routineId, version }),
  });
}

async function columnsOf(app: App, work: Work, form: RoutineForm): Promise<Outcome<{ name: string } & Record<string, unknown>>> {
  const rule = readRule(form.rule);
  if (isRefusal(rule)) return rule;
  const template = await work.tx('ticket_template').where({ id: form.templateId }).whereNull('archived_at').first('id');
  if (!template) return refuse('invalid', 'There is no such template.', { templateId: 'choose one of the templates' });
  const contact = await work.tx('contact').where({ id: form.contactId, client_id: form.clientId }).first('id');
  if (!contact) return refuse('invalid', 'The contact is not of this client.', { contactId: 'choose a contact of the client' });
  const row = { rule, starts_on: parseLocalDate(form.startsOn), minute: minuteOf(form.at) };
  const next = turnAfter(row, app.house.house.zone, work.now);
  if (next === undefined) return refuse('invalid', 'This rule has no turn left.', { rule: 'a rule with a turn to come' });
  return { ...row, name: form.name, template_id: form.templateId, client_id: form.clientId, contact_id: form.contactId, next_at: at(next) };
}
