import fc from 'fast-check';
import {
  citedIds,
  findTicketToken,
  mailKindOf,
  plainId,
  plainSubject,
  readAwayNotice,
  readDeliveryReport,
  subjectWithToken,
  threadMail,
  type MailKind,
} from '.';

const head = (headers: Record<string, string>, returnPath = 'a@b.example', ownSignature = false) =>
  mailKindOf({ headers, returnPath, ownSignature });

describe('messages', () => {
  it('tells people from machines', () => {
    expect(head({})).toBe('person');
    expect(head({ 'auto-submitted': 'no' })).toBe('person');
    expect(head({ 'auto-submitted': 'auto-replied (out of office)' })).toBe('automatic');
    expect(head({ precedence: 'bulk' })).toBe('automatic');
    expect(head({ 'list-id': '<staff.hollin.example>' })).toBe('list');
    expect(head({ precedence: 'list' })).toBe('list');
    expect(head({ 'list-id': '<news.example>', precedence: 'bulk' })).toBe('automatic');
    expect(head({}, '')).toBe('automatic');
    expect(head({ 'content-type': 'multipart/report; report-type="delivery-status"; boundary=x' }, '')).toBe('report');
    expect(head({ 'content-type': 'multipart/report; report-type=disposition-notification' }, '')).toBe('automatic');
    expect(head({ 'auto-submitted': 'no' }, 'a@b.example', true)).toBe('own loop');
    // A mark that anybody can write is none.
    expect(head({ 'x-drumline-origin': 'x' })).toBe('person');
  });

  it('finds its own token again in whatever a mail program did to the subject', () => {
    const secret = fc.stringMatching(/^[a-z2-9]{6}$/);
    fc.assert(
      fc.property(
        fc.string(),
        fc.integer({ min: 1, max: 999_999_999 }),
        secret,
        fc.constantFrom('Re: ', 'RE: Fwd: ', 'AW: '),
        (subject, number, key, prefix) => {
          const sent = subjectWithToken(subject, { number, secret: key });
          expect(findTicketToken(prefix + sent)).toBeDefined();
          expect(subjectWithToken(prefix + sent, { number, secret: key })).toBe(
            subjectWithToken(plainSubject(sent), { number, secret: key }),
          );
        },
      ),
    );
    expect(plainSubject('RE: Re: fwd: Printer (ref 4812-k7q2mm)')).toBe('Printer');
    expect(plainSubject('Re:')).toBe('(no subject)');
    expect(findTicketToken('about (ref 12)')).toBeUndefined();
  });

  it('joins by reference first, by token second, and only for those who belong', () => {
    const a = { ticketId: 'a', senderBelongs: true, closedForGood: false, worked: false };
    const b = { ...a, ticketId: 'b' };
    const ask = ({
      kind,
      cited = [],
      byToken,
      more = {},
    }: {
      readonly kind: MailKind;
      readonly cited?: (typeof a)[];
      readonly byToken?: typeof a;
      readonly more?: { thanks?: boolean; openedBeside?: typeof a };
    }) => threadMail({ kind, thanks: more.thanks ?? false, byReference: cited, byToken, openedBeside: more.openedBeside });
    const stranger = { ...a, senderBelongs: false };
    expect(ask({ kind: 'person', cited: [a], byToken: b })).toMatchObject({ do: 'join', ticketId: 'a', quiet: false });
    expect(ask({ kind: 'list', cited: [a] })).toMatchObject({ do: 'join', ticketId: 'a', quiet: false });
    // Any of what it cites, not only the nearest.
    expect(ask({ kind: 'person', cited: [stranger, b] })).toMatchObject({ do: 'join', ticketId: 'b' });
    expect(ask({ kind: 'person', cited: [], byToken: b })).toMatchObject({ do: 'join', ticketId: 'b' });
    expect(ask({ kind: 'person', cited: [], byToken: { ...b, senderBelongs: false } })).toMatchObject({ do: 'open', linkedTicketId: 'b' });
    expect(ask({ kind: 'person', cited: [stranger] })).toMatchObject({ do: 'open', linkedTicketId: 'a' });
    // Somebody new in a talk goes on in the ticket opened for their first mail.
    expect(ask({ kind: 'person', cited: [stranger], byToken: undefined, more: { openedBeside: { ...b, ticketId: 'c' } } })).toMatchObject({
      do: 'join',
      ticketId: 'c',
    });
    expect(ask({ kind: 'person' })).toMatchObject({ do: 'open', linkedTicketId: undefined });
    expect(ask({ kind: 'automatic', cited: [a] })).toMatchObject({ do: 'join', quiet: true });
    // A header makes nobody belong.
    expect(ask({ kind: 'automatic', cited: [stranger] })).toMatchObject({ do: 'open', linkedTicketId: 'a' });
    expect(ask({ kind: 'automatic' })).toMatchObject({ do: 'open' });
    expect(ask({ kind: 'own loop', cited: [a] })).toMatchObject({ do: 'keep aside' });
    const closed = { ...a, closedForGood: true };
    expect(ask({ kind: 'person', cited: [closed] })).toMatchObject({ do: 'open', linkedTicketId: 'a' });
    expect(ask({ kind: 'person', cited: [closed], byToken: undefined, more: { thanks: true } })).toMatchObject({
      do: 'join',
      ticketId: 'a',
    });
    expect(ask({ kind: 'automatic', cited: [closed] })).toMatchObject({ do: 'join', quiet: true });
    // A mail that cites both shows that they are one talk; where nobody worked on one, it is a double of the other.
    const worked = { ...b, worked: true };
    expect(ask({ kind: 'person', cited: [a, b] })).toMatchObject({ ticketId: 'a', gathers: [{ ticketId: 'b', as: 'double' }] });
    expect(ask({ kind: 'person', cited: [a, worked] })).toMatchObject({ ticketId: 'b', gathers: [{ ticketId: 'a', as: 'double' }] });
    expect(ask({ kind: 'person', cited: [{ ...a, worked: true }, worked] })).toMatchObject({
      ticketId: 'a',
      gathers: [{ ticketId: 'b', as: 'related' }],
    });
    expect(ask({ kind: 'person', cited: [a, { ...worked, closedForGood: true }] })).toMatchObject({ ticketId: 'a', gathers: [] });
    expect(ask({ kind: 'person', cited: [a, { ...b, senderBelongs: false }] })).toMatchObject({ ticketId: 'a', gathers: [] });
    expect(ask({ kind: 'automatic', cited: [a, b] })).toMatchObject({ ticketId: 'a', gathers: [] });
  });

  it('compares ids without the white space that mail servers fold in, and finds all that are cited, the nearest first', () => {
    const id = fc.stringMatching(/^[a-z0-9.]{1,12}@[a-z]{1,8}\.example$/).map((text) => `<${text}>`);
    fc.assert(
      fc.property(fc.uniqueArray(id, { minLength: 1, maxLength: 12 }), fc.constantFrom(' ', '\r\n ', '\t'), (ids, space) => {
        const folded = ids.map((each) => each.slice(0, 3) + space + each.slice(3));
        expect(citedIds(folded.at(-1), [folded.join(space)])).toEqual([...ids].reverse());
        expect(citedIds(undefined, folded)).toEqual([...ids].reverse());
        expect(plainId(folded[0]!)).toBe(ids[0]);
      }),
    );
    expect(citedIds(undefined, [])).toEqual([]);
    expect(citedIds('no brackets', [])).toEqual(['nobrackets']);
  });

  it('reads a delivery report, and the message it is about from the original that it encloses', () => {
    const block = (address: string, action: string, status: string) =>
      `Final-Recipient: rfc822; ${address}\r\nAction: ${action}\r\nStatus: ${status}\r\nDiagnostic-Code: smtp; 550\r\n  no such user`;
    const report = readDeliveryReport(
      [
        'Reporting-MTA: dns; mx.example',
        block('Orla@Hollin.example', 'failed', '5.1.1'),
        block('b@hollin.example', 'delayed', '4.4.1'),
        block('c@hollin.example', 'relayed', '2.0.0'),
        block('d@hollin.example', 'failed', '5.9.9'),
      ].join('\r\n\r\n'),
      'From: desk@pellworth.example\r\nMessage-ID:\r\n <own@pellworth.example>\r\n\r\nMessage-ID: <not-this@x.example>',
    );
    expect(report.originalId).toBe('<own@pellworth.example>');
    expect(report.deliveries.map((d) => [d.address, d.became, d.code, d.why])).toEqual([
      ['orla@hollin.example', 'failed', '5.1.1', 'there is no such mailbox'],
      ['b@hollin.example', 'delayed', '4.4.1', 'their mail server does not answer'],
      ['c@hollin.example', 'delivered', '2.0.0', 'it was delivered'],
      ['d@hollin.example', 'failed', '5.9.9', 'their mail server did not take it'],
    ]);
    expect(readDeliveryReport('', null)).toEqual({ originalId: null, deliveries: [] });
    fc.assert(fc.property(fc.string(), fc.string(), (status, original) => void readDeliveryReport(status, original)));
  });

  it.each([
    ['Out of office', 'I am away from 1 December until 12 December.', { from: '2026-12-01', back: '2026-12-13' }],
    ['Automatic reply: Till', 'I am on leave and will be back on Monday, the 7th of December 2026.', { from: null, back: '2026-12-07' }],
    ['Out of office', 'Away from 2026-12-24 to 2027-01-03.', { from: '2026-12-24', back: '2027-01-04' }],
    ['Automatic reply', 'I return on 8 January.', { from: null, back: '2027-01-08' }],
    ['Automatic reply', 'Nobody reads this box until 31 February.', { from: null, back: null }],
    ['Ticket 12 received', 'We have your message of 1 December.', undefined],
  ])('reads %s: %s', (subject, text, expected) => {
    expect(readAwayNotice(subject, text, '2026-11-24')).toEqual(expected);
  });
});
