import type { Knex } from 'knex';
import { ruleOf } from '@core/conditions';

/** What the demo's tickets are asked for besides what every ticket has; loaded last, so that its past is not asked. */
export async function loadDemoAsked(tx: Knex.Transaction): Promise<void> {
  const { id: somebodyNew } = await tx('category').where({ name: 'Somebody new' }).first('id');
  const ofSomebodyNew = ruleOf({ join: 'all', tests: [{ fact: 'ticket.category', is: 'is', value: somebodyNew }] });
  const ofIncidents = ruleOf({ join: 'all', tests: [{ fact: 'ticket.kind', is: 'is', value: 'incident' }] });
  const fields = [
    { name: 'First day', kind: 'date', choices: [], shown: ofSomebodyNew, required: ofSomebodyNew, asked: ['resolving'] },
    {
      name: 'Cause',
      kind: 'choice',
      choices: ['wear', 'a change we made', 'a change they made', 'a supplier', 'not found'],
      shown: ofIncidents,
      required: false,
      asked: [],
    },
  ];
  await tx('own_field').insert(fields.map((f) => ({ ...f, shown: JSON.stringify(f.shown), required: JSON.stringify(f.required) })));
  await tx('own_status').insert([
    { name: 'parts ordered', stands_for: 'on hold', waits_for: 'supplier' },
    { name: 'on the bench', stands_for: 'underway', waits_for: null },
  ]);
  await tx('own_condition').insert({
    name: 'nothing says what came of the call',
    kinds: ['sales follow-up'],
    moves: ['resolved', 'closed'],
    rule: JSON.stringify(ruleOf({ join: 'all', tests: [{ fact: 'ticket.resolution', is: 'is empty', value: null }] })),
  });
}
