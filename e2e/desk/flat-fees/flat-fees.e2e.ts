import { openStage } from '../../browser';

const [stage, aoife] = await openStage(['Aoife Brannigan', '/tickets']);

const ticket = async (after = 0) =>
  stage.world
    .knex('ticket')
    .where({ status: 'queued', kind: 'incident' })
    .whereNull('umbrella_id')
    .whereNull('reply_owed_since')
    .orderBy('number', 'desc')
    .offset(after)
    .first('id');

describe('a flat-fee job', () => {
  it('is made midway, charged once, and says how it went', async () => {
    const { id } = await ticket();
    await aoife.go(`/tickets/${id}`);
    await aoife.press('dl-ticket-fee button', 'Make it a flat-fee job');
    await aoife.fill('Fee', 'Open an account');
    await aoife.fill('How many', '0');
    await aoife.press('dl-record-form button', 'Set the fee');
    await aoife.sees('dl-record-form .error', 'at least 1');
    await aoife.fill('How many', '2');
    await aoife.press('dl-record-form button', 'Set the fee');
    await aoife.sees('dl-ticket-fee', '2 × Open an account, €120.00');
    await aoife.sees('dl-ticket-charges', 'Open an account');
    await aoife.press('header button', 'Resolve');
    await aoife.sees('dl-before-moving', 'nothing says whether the flat-fee job succeeded');
    await aoife.press('dl-before-moving button', 'say how it went');
    await aoife.press('dl-record-form button', 'Save');
    await aoife.sees('dl-ticket-fee', 'It succeeded.');
    await aoife.press('dl-ticket-fee button', 'take it off');
    await aoife.fill('Why it is taken off', 'it was an incident after all');
    await aoife.press('dl-record-form button', 'Take the fee off');
    await aoife.sees('dl-ticket-fee', 'Make it a flat-fee job');
  });

  it('is pointed out at resolving where a ticket looks like one, and taken with one press', async () => {
    const { id } = await ticket(1);
    await stage.world.knex('ticket').where({ id }).update({ subject: 'Another till for the shop' });
    await aoife.go(`/tickets/${id}`);
    await aoife.sees('dl-ticket-fee', 'Looks like Prepare a till');
    await aoife.press('header button', 'Resolve');
    await aoife.sees('dl-before-moving', 'it looks like "Prepare a till');
    await aoife.press('dl-before-moving button', 'take that fee');
    await aoife.sees('dl-ticket-fee', '1 × Prepare a till, €95.00');
    expect(aoife.troubles).toEqual([]);
  });

  it('is kept in Setup', async () => {
    await aoife.go('/setup/flat-fees');
    await aoife.press('header button', 'Add a fee');
    await aoife.press('dl-record-form button', 'Add it');
    await aoife.sees('dl-record-form .error', 'write something');
    await aoife.fill('Job', 'Move a desk');
    await aoife.fill('Charged as', 'Open an account');
    await aoife.fill('Words that speak of it', 'move a desk, move desks');
    await aoife.press('dl-record-form button', 'Add it');
    await aoife.sees('table', '"move a desk", "move desks"');
    expect(aoife.troubles).toEqual([]);
  });
});
