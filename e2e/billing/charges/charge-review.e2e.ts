import { startBilling } from '../../../packages/server/testing/billing';
import { openStage } from '../../browser';

const [stage, ngozi] = await openStage([]);
let ticketId: string;
beforeAll(async () => {
  const { ticketOf, record, technician } = await startBilling(stage.world);
  ({ id: ticketId } = (await ticketOf('Larkspur Seed Co-op'))!);
  const planned = Number((await stage.world.knex('time_entry').where({ ticket_id: ticketId }).sum('minutes as n').first())!.n) + 60;
  await technician.do('setEstimate', { params: { ticketId }, body: { minutes: planned } });
  await record(ticketId, '2026-11-23T09:00:00Z', { duration: '45', note: 'Switch replaced' });
  const other = (await ticketOf('Quillfeather Press'))!;
  await record(other.id, '2026-11-23T11:00:00Z', { duration: '30', note: 'Cable traced' });
  // Over what was planned: the first charge of the ticket is odd for it, too.
  await record(ticketId, '2026-11-23T13:00:00Z', { duration: '30', note: 'Switch set up' });
});
afterEach(() => expect(ngozi.troubles).toEqual([]));

const standing = async (text: string) =>
  (await stage.world.knex('charge').where('description', 'like', `%${text}`).first('standing', 'held_until', 'description'))!;

describe('charge review', () => {
  it('says what is odd with its figures, shows that alone, and approves the rest of all clients at once', async () => {
    await ngozi.enter('Ngozi Adeyemi-Clarke', '/charges');
    await ngozi.sees('.charge', 'above estimate: ');
    await ngozi.press('.why-odd button', 'above estimate');
    await ngozi.gone('.charge', 'Cable traced');
    await ngozi.sees('.charge', 'Switch set up');
    expect(await ngozi.accessibility()).toEqual([]);
    await ngozi.press('.why-odd button', 'show all');
    await ngozi.sees('.charge', 'Cable traced');
    await ngozi.press('.page-head button', 'Approve 1 that');
    await ngozi.sees('dl-toast-list', '1 approved');
    await ngozi.gone('.charge', 'Cable traced');
    expect((await standing('Cable traced')).standing).toBe('approved');
    await ngozi.press('dl-toast-list button', 'Undo');
    await ngozi.sees('.charge', 'Cable traced');
    expect((await standing('Cable traced')).standing).toBe('proposed');
  });

  it('holds a charge for later, says so, and gives it back', async () => {
    await ngozi.press('.charge button', 'Hold');
    await ngozi.press('dl-record-form button', 'Hold it');
    await ngozi.sees('dl-record-form .error', 'say why');
    await ngozi.fill('Why is it held?', 'they asked for December');
    await ngozi.press('dl-record-form button', 'Hold it');
    await ngozi.sees('dl-toast-list', 'Held');
    await ngozi.press('.page-head [role=group] button', 'Held');
    await ngozi.sees('.charge', 'held until 1 Dec 2026: they asked for December');
    await ngozi.press('.charge button', 'Hold no longer');
    await ngozi.sees('dl-empty-note', 'Nothing is held');
    await ngozi.press('.page-head [role=group] button', 'To review');
    await ngozi.sees('.charge', 'Switch replaced');
  });

  it('adjusts quantity and text, and keeps what it was in sight', async () => {
    await ngozi.press('.charge button', 'Adjust');
    await ngozi.fill('Minutes', '20');
    await ngozi.fill('Text on the document', 'Switch replaced, as agreed');
    await ngozi.fill('Why is it adjusted?', 'agreed on the phone');
    await ngozi.press('dl-record-form button', 'Adjust it');
    await ngozi.sees('.charge', 'Switch replaced, as agreed');
    await ngozi.sees('.charge', 'was 45 min');
  });

  it('lets a rule approve from a day on, and takes the rule away with undo', async () => {
    await ngozi.press('.page-head button', 'Approved by itself');
    await ngozi.press('dl-approval-rules button', 'add a rule');
    await ngozi.fill('Days after the charge; empty is never', '100');
    await ngozi.press('dl-record-form button', 'Add it');
    await ngozi.sees('dl-record-form .error', '90');
    await ngozi.fill('Days after the charge; empty is never', '1');
    await ngozi.press('dl-record-form button', 'Add it');
    await ngozi.sees('dl-approval-rules', "1 day after the charge's day");
    expect(await ngozi.accessibility()).toEqual([]);
    await ngozi.press('dl-approval-rules button', 'take away');
    await ngozi.sees('dl-approval-rules', 'every charge waits for somebody');
    await ngozi.keys('u');
    await ngozi.sees('dl-approval-rules', "1 day after the charge's day");
  });

  it('finds in money what was done and never charged, by why', async () => {
    await ngozi.press('.page-head button', 'Never charged');
    await ngozi.sees('dl-never-charged', 'Time that is not billable');
    await ngozi.press('dl-never-charged [role=group] button', 'goodwill');
    await ngozi.sees('dl-never-charged .row', 'as “goodwill”');
    expect(await ngozi.accessibility()).toEqual([]);
    await ngozi.press('dl-never-charged .row a', '#');
    await ngozi.sees('dl-ticket-page, main', 'Time');
  });
});

describe('what a client asks', () => {
  it('is noted at the charge, makes it odd until it is answered, and stays in sight', async () => {
    await ngozi.go('/charges');
    await ngozi.press('.charge button', 'Question');
    await ngozi.fill('Who of the client asks?', 'Wren Okafor');
    await ngozi.fill('What do they ask?', 'Was it not under guarantee?');
    await ngozi.press('dl-record-form button', 'Note the question');
    await ngozi.sees('.charge .odd', 'asked about: Wren Okafor');
    await ngozi.press('dl-charge-questions button', 'answer');
    await ngozi.fill('What were they answered?', 'No, since October.');
    await ngozi.press('dl-record-form button', 'Note the answer');
    await ngozi.sees('dl-charge-questions', 'No, since October.');
    await ngozi.gone('.charge .odd', 'asked about');
  });

  it('is less to ask where the next invoice so far is in sight, and tells from a level on', async () => {
    await ngozi.go('/billing?show=open');
    await ngozi.sees('dl-open-tabs', 'Larkspur Seed Co-op');
    expect(await ngozi.accessibility()).toEqual([]);
    await ngozi.press('dl-open-tabs [data-client] button', 'set');
    await ngozi.fill('Tell me from this sum on, before tax', '1.00');
    await ngozi.press('dl-record-form button', 'Save');
    await ngozi.sees('dl-open-tabs', 'tells Ngozi');
    await ngozi.sees('dl-notices, dl-top-bar', 'What is new 1');
  });
});
