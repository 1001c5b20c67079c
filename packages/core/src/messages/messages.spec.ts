import fc from 'fast-check';
import { findTicketToken, mailKindOf, plainSubject, subjectWithToken, threadMail, type MailKind } from './index';

const head = (headers: Record<string, string>, returnPath = 'a@b.example') => mailKindOf({ headers, returnPath });

describe('messages', () => {
  it('tells people from machines', () => {
    expect(head({})).toBe('person');
    expect(head({ 'auto-submitted': 'no' })).toBe('person');
    expect(head({ 'auto-submitted': 'auto-replied (out of office)' })).toBe('automatic');
    expect(head({ precedence: 'bulk' })).toBe('automatic');
    expect(head({ 'list-id': '<news.example>' })).toBe('automatic');
    expect(head({}, '')).toBe('bounce');
    expect(head({ 'content-type': 'multipart/report; report-type=delivery-status' })).toBe('bounce');
    expect(head({ 'x-drumline-origin': 'x', 'auto-submitted': 'no' })).toBe('own loop');
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
    const a = { ticketId: 'a', senderBelongs: true, closedForGood: false };
    const b = { ticketId: 'b', senderBelongs: true, closedForGood: false };
    const ask = (kind: MailKind, byReference?: typeof a, byToken?: typeof a, thanks = false) =>
      threadMail({ kind, thanks, byReference, byToken });
    expect(ask('person', a, b)).toMatchObject({ do: 'join', ticketId: 'a', quiet: false });
    expect(ask('person', undefined, b)).toMatchObject({ do: 'join', ticketId: 'b' });
    expect(ask('person', undefined, { ...b, senderBelongs: false })).toMatchObject({ do: 'open', linkedTicketId: 'b' });
    expect(ask('person', { ...a, senderBelongs: false })).toMatchObject({ do: 'open', linkedTicketId: 'a' });
    expect(ask('person')).toMatchObject({ do: 'open', linkedTicketId: undefined });
    expect(ask('automatic', a)).toMatchObject({ do: 'join', quiet: true });
    expect(ask('automatic')).toMatchObject({ do: 'open' });
    expect(ask('bounce')).toMatchObject({ do: 'keep aside' });
    expect(ask('own loop', a)).toMatchObject({ do: 'keep aside' });
    const closed = { ...a, closedForGood: true };
    expect(ask('person', closed)).toMatchObject({ do: 'open', linkedTicketId: 'a' });
    expect(ask('person', closed, undefined, true)).toMatchObject({ do: 'join', ticketId: 'a' });
    expect(ask('automatic', closed)).toMatchObject({ do: 'join', quiet: true });
  });
});
