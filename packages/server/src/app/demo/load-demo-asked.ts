import type { Knex } from 'knex';
import { dateOf, type Instant, ruleOf, type Zone } from '@core/ground';
import { turnAfter } from '../../desk/routines/open-routines';
import { at } from '../database';

/** What the demo's tickets are asked for besides what every ticket has; loaded last, so that its past is not asked. */
export async function loadDemoAsked(tx: Knex.Transaction, story: Instant, zone: Zone): Promise<void> {
  const { id: somebodyNew } = (await tx('category').where({ name: 'Somebody new' }).first('id'))!;
  const ofSomebodyNew = ruleOf({ join: 'all', tests: [{ fact: 'ticket.category', is: 'is', value: somebodyNew }] });
  const ofIncidents = ruleOf({ join: 'all', tests: [{ fact: 'ticket.kind', is: 'is', value: 'incident' }] });
  const servers = ruleOf({
    join: 'any',
    tests: [
      { fact: 'asset.name', is: 'contains', value: 'Server' },
      { fact: 'asset.name', is: 'contains', value: 'server' },
    ],
  });
  const fields = [
    { on_record: 'asset', name: 'Bought on', kind: 'date', choices: [], shown: true, required: false, asked: [] },
    { on_record: 'asset', name: 'Rack and place', kind: 'text', choices: [], shown: servers, required: false, asked: [] },
    { on_record: 'client', name: 'Way in after hours', kind: 'text', choices: [], shown: true, required: false, asked: [] },
    {
      on_record: 'contact',
      name: 'Best rung',
      kind: 'choice',
      choices: ['mornings', 'afternoons', 'any time'],
      shown: true,
      required: false,
      asked: [],
    },
    {
      on_record: 'ticket',
      name: 'First day',
      kind: 'date',
      choices: [],
      shown: ofSomebodyNew,
      required: ofSomebodyNew,
      asked: ['resolving'],
    },
    {
      on_record: 'ticket',
      name: 'Cause',
      kind: 'choice',
      choices: ['wear', 'a change we made', 'a change they made', 'a supplier', 'not found'],
      shown: ofIncidents,
      required: false,
      asked: [],
    },
  ];
  await tx('own_field').insert(fields.map((f) => ({ ...f, shown: JSON.stringify(f.shown), required: JSON.stringify(f.required) })));
  await fillRecords(tx);
  await tx('own_kind').insert({ name: 'loan device', stands_for: 'service request' });
  await tx('own_status').insert([
    { name: 'parts ordered', stands_for: 'on hold', waits_for: 'supplier' },
    { name: 'on the bench', stands_for: 'underway', waits_for: null },
  ]);
  await loadTemplates(tx, somebodyNew);
  const look = (await tx('ticket_template').where({ name: 'Monthly look at the servers' }).first('id'))!;
  const hollin = await tx('contact as k')
    .join('client as c', 'c.id', 'k.client_id')
    .where('c.name', 'like', 'Hollin%')
    .orderBy('k.name')
    .first('k.id', 'k.client_id');
  const routine = { rule: 'FREQ=MONTHLY;BYDAY=1TU', starts_on: dateOf(story, zone), minute: 8 * 60 + 30 };
  await tx('routine').insert({
    ...routine,
    name: 'Servers at Hollin',
    template_id: look.id,
    client_id: hollin.client_id,
    contact_id: hollin.id,
    next_at: at(turnAfter(routine, zone, story)!),
  });
  await tx('own_condition').insert({
    name: 'nothing says what came of the call',
    kinds: ['sales follow-up'],
    moves: ['resolved', 'closed'],
    rule: JSON.stringify(ruleOf({ join: 'all', tests: [{ fact: 'ticket.resolution', is: 'is empty', value: null }] })),
  });
}

async function loadTemplates(tx: Knex.Transaction, somebodyNew: string): Promise<void> {
  const desk = (await tx('desk').where({ name: 'Support' }).first('id'))!;
  const servers = (await tx('category').where({ name: 'Servers and storage' }).first('id'))!;
  await tx('ticket_template').insert([
    {
      name: 'Monthly look at the servers',
      subject: 'Monthly look at the servers',
      text: 'What is full, what is loud, what is old. Write down what the client should know.',
      kind: 'internal',
      impact: 'one',
      urgency: 'can wait',
      category_id: servers.id,
      desk_id: desk.id,
      line: 'first',
      checklist: [
        'Read the backup reports of the month',
        'Free space on every volume',
        'Lamps, fans and temperatures',
        'Updates that wait',
      ],
    },
    {
      name: 'Loan device',
      subject: 'Loan device',
      text: 'They need a loan device until theirs is back.',
      kind: null,
      checklist: ['Note its number', 'Agree when it comes back'],
    },
  ]);
  await tx('checklist_template').insert({
    name: 'Somebody new',
    items: ['Open the account', 'Give the rights of the role', 'Prepare the computer', 'Tell the contact how to sign in'],
  });
  const firstDay = (await tx('own_field').where({ name: 'First day' }).first('id'))!;
  await tx('request_form').insert({
    name: 'Somebody new starts with us',
    path: 'somebody-new',
    intro: 'Tell us who starts and when, and we prepare everything.',
    kind: 'flat-fee job',
    category_id: somebodyNew,
    fields: [firstDay.id],
  });
}

/** What some records hold: when an asset was bought, how to get in, when somebody is best rung. */
async function fillRecords(tx: Knex.Transaction): Promise<void> {
  const set = ({
    table,
    name,
    value,
    where,
  }: {
    readonly table: string;
    readonly name: string;
    readonly value: string;
    readonly where: string;
  }) =>
    tx.raw(
      `update ${table} r set fields = fields || jsonb_build_object(f.id::text, ${value})
       from own_field f where f.on_record = ? and f.name = ? and ${where}`,
      [table, name],
    );
  // Spread by the number an asset carries, from six years back to last spring.
  const days = `(ascii(right(r.number, 1)) * 41 + ascii(substr(r.number, 1, 1)) * 17 + ascii(left(right(r.number, 2), 1)) * 73) % 1900`;
  await set({ table: 'asset', name: 'Bought on', value: `to_char(date '2020-11-02' + ${days}, 'YYYY-MM-DD')`, where: 'true' });
  await set({
    table: 'asset',
    name: 'Rack and place',
    value: `'rack ' || (1 + ${days} % 2) || ', place ' || (4 + ${days} % 30)`,
    where: `r.name ilike '%server%'`,
  });
  await set({
    table: 'client',
    name: 'Way in after hours',
    value: `'ring the alarm room first, then the code on the yellow card'`,
    where: 'r.number % 3 = 1',
  });
  await set({ table: 'contact', name: 'Best rung', value: `'mornings'`, where: 'r.priority' });
}
