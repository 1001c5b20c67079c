import fc from 'fast-check';
import { startWorld, type World } from '../../../testing/test-server';
import { receiveMail } from './receive-mail';

let world: World;
beforeAll(async () => (world = await startWorld()));
afterAll(() => world.stop());

const ORLA = 'orla.devane@hollin.example';
const take = (lines: string[]) =>
  receiveMail(world.running.app, Buffer.from([...lines, '', 'Hello'].join('\r\n')), { from: ORLA, to: ['desk@pellworth.example'] });
const mailOf = ({
  id,
  cites,
  from = ORLA,
  between = ' ',
}: {
  readonly id: string;
  readonly cites: readonly string[];
  readonly from?: string;
  readonly between?: string;
}) =>
  take([
    `From: ${from}`,
    `Message-ID: ${id}`,
    ...(cites.length ? [`In-Reply-To: ${cites.at(-1)}`, `References: ${cites.join(between)}`] : []),
    `Subject: ${id.slice(1, -1)}`,
  ]);
const ticketsOf = (like: string): Promise<string[]> =>
  world.knex('message').where('message_id', 'like', like).distinct('ticket_id').pluck('ticket_id');
const TALKS = 500;
const AT_ONCE = 5;
const PAIRS = 500;

describe('the mails of one talk', () => {
  it('meet in one ticket, in whatever order they come, however much each cites', async () => {
    let round = 0;
    const replies = fc.array(fc.record({ parent: fc.nat(100), cites: fc.constantFrom('all', 'nearest') }), { minLength: 1, maxLength: 5 });
    const talk = fc.record({ replies, order: fc.infiniteStream(fc.nat(1000)), fold: fc.boolean() });
    await fc.assert(
      fc.asyncProperty(fc.array(talk, { minLength: AT_ONCE, maxLength: AT_ONCE }), async (talks) => {
        const met = talks.map(async ({ replies, order, fold }) => {
          const name = ++round;
          const id = (n: number) => `<t${name}-${n}@hollin.example>`;
          const lines: string[][] = [[id(0)]];
          for (const [n, { parent }] of replies.entries()) lines.push([...lines[parent % (n + 1)]!, id(n + 1)]);
          const mails = lines.map((line, n) => {
            const all = line.slice(0, -1);
            return { id: id(n), cites: replies[n - 1]?.cites === 'nearest' ? all.slice(-1) : all };
          });
          const shuffled = mails.map((mail) => ({ mail, at: order.next().value as number })).sort((a, b) => a.at - b.at);
          const deliver = ({ mail }: (typeof shuffled)[number]) =>
            mailOf({ id: mail.id, cites: mail.cites, from: ORLA, between: fold ? '\r\n ' : ' ' });
          const [first, second, ...rest] = shuffled;
          await Promise.all([first!, second!].map(deliver));
          for (const each of rest) await deliver(each);
          expect(await ticketsOf(`<t${name}-%`)).toHaveLength(1);
        });
        await Promise.all(met);
      }),
      { numRuns: TALKS / AT_ONCE },
    );
  });

  it('meet also when an answer and what it answers come milliseconds apart, in either order', async () => {
    const wait = (ms: number) => new Promise((done) => setTimeout(done, ms));
    let next = 0;
    const deliver = async () => {
      for (let n = next++; n < PAIRS; n = next++) {
        const [original, answer] = [`<p${n}-0@hollin.example>`, `<p${n}-1@hollin.example>`];
        const two = [() => mailOf({ id: original, cites: [] }), () => mailOf({ id: answer, cites: [original] })];
        if (n % 2) two.reverse();
        await Promise.all([two[0]!(), wait(5).then(two[1])]);
      }
    };
    await Promise.all(Array.from({ length: AT_ONCE }, deliver));
    const { rows } = await world.knex.raw(
      `select count(*)::int as mails, count(distinct ticket_id)::int as tickets from message where message_id like '<p%-_@hollin.example>'`,
    );
    expect(rows[0]).toEqual({ mails: 2 * PAIRS, tickets: PAIRS });
  });

  it('that stand in two tickets are merged by a mail that cites both, and stand apart again by one press', async () => {
    const first = await mailOf({ id: '<g0@hollin.example>', cites: ['<absent-a@hollin.example>'] });
    const second = await mailOf({ id: '<g1@hollin.example>', cites: ['<absent-b@hollin.example>'] });
    expect(second.ticketId).not.toBe(first.ticketId);
    const third = await mailOf({ id: '<g2@hollin.example>', cites: ['<g0@hollin.example>', '<g1@hollin.example>'] });
    expect([third.did, third.ticketId]).toEqual(['joined', second.ticketId]);
    const double = await world.knex('ticket').where({ id: first.ticketId }).first('status', 'outcome', 'merged_into_id');
    expect(double).toEqual({ status: 'closed', outcome: 'merged', merged_into_id: second.ticketId });
    const aoife = await world.as('Aoife');
    const seen = await aoife.do('getTicket', { params: { ticketId: second.ticketId! } });
    expect(seen.story.map((s) => s.what)).toContain(`took in its double #${first.number}: 1 message`);
    await aoife.do('unmergeTicket', { params: { ticketId: first.ticketId! } });
    expect(await ticketsOf('<g0@%')).toEqual([first.ticketId]);
  });

  it('are related and shown, not merged, where people are at work on both', async () => {
    const aoife = await world.as('Aoife');
    const [one, other] = [
      await mailOf({ id: '<h0@hollin.example>', cites: ['<absent-c@hollin.example>'] }),
      await mailOf({ id: '<h1@hollin.example>', cites: ['<absent-d@hollin.example>'] }),
    ];
    for (const { ticketId } of [one, other])
      await aoife.do('addNote', { params: { ticketId: ticketId! }, body: { text: 'Looking at it.' } });
    const joined = await mailOf({ id: '<h2@hollin.example>', cites: ['<h0@hollin.example>', '<h1@hollin.example>'] });
    expect(joined.ticketId).toBe(other.ticketId);
    const seen = await aoife.do('getTicket', { params: { ticketId: other.ticketId! } });
    expect(seen.related.map((r) => [r.id, r.how])).toEqual([[one.ticketId, 'related']]);
    expect(seen.story.map((s) => s.what)).toContain('related to a ticket of the same talk, as a mail cites both');
  });
});
