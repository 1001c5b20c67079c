import { type Changes, type Explanation, type Id, plural, sayChanges, type Was, type WordsOf } from '../../ground';
import type { Priority } from '../priority';
import type { ChecklistAnswer, HoldReason, Kind, Line, Status, TicketOutcome } from '../tickets';

type Nothing = Record<never, never>;

/** What a move changes beside the status, as it stood; instants as they are sent. */
export interface BeforeMove {
  readonly holdReason: HoldReason | null;
  readonly ownStatusId: Id<'own_status'> | null;
  readonly resolvedAt: string | null;
  readonly closedAt: string | null;
  readonly closesAt: string | null;
  readonly outcome: TicketOutcome | null;
  readonly factIds: readonly number[];
}

export interface TicketEvents {
  'ticket.opened':
    | { readonly how: 'mail' }
    | { readonly how: 'form'; readonly form: string }
    | { readonly how: 'hand' | 'call'; readonly whom: string }
    | { readonly how: 'umbrella'; readonly desk: string; readonly priority: Priority };
  'ticket.routed': {
    readonly deskId: Id<'desk'>;
    readonly desk: string;
    readonly kind: Kind;
    /** The house's own kind, where it is one. */
    readonly ownKind: string | null;
    readonly categoryId: Id<'category'>;
    readonly category: string;
    readonly priority: Was<Priority | null>;
    readonly assigneeId: Id<'person'> | null;
    readonly assignee: string | null;
    readonly why: Explanation;
  };
  'ticket.triage-taken-back': Nothing;
  'ticket.not-work-set': { readonly notWork: boolean };
  'ticket.mail-rule-applied': { readonly ruleId: string; readonly rule: string; readonly did: 'looked' | 'sorted' };
  'ticket.mail-rule-refused': { readonly ruleId: string; readonly rule: string; readonly why: string };
  'ticket.handed-over': {
    readonly deskId: Was<Id<'desk'> | null>;
    readonly desk: string;
    readonly line: Was<Line | null>;
    readonly assigneeId: Was<Id<'person'> | null>;
    readonly assignee: string | null;
    readonly tried: string;
  };
  'ticket.assigned': { readonly assigneeId: Id<'person'> | null; readonly assignee: Was<string | null> };
  'ticket.moved': {
    readonly status: Was<Status>;
    readonly holdReason: HoldReason | null;
    readonly ownStatusId: Id<'own_status'> | null;
    readonly ownStatus: string | null;
    /** What stood before, and the clock facts it wrote, for it to be undone. */
    readonly before: BeforeMove;
  };
  'ticket.move-undone': { readonly status: Was<Status>; readonly movedAt: string };
  'ticket.checks-passed-over': { readonly to: Status; readonly reason: string; readonly obstacles: string };
  'ticket.changed': {
    readonly priority: Was<Priority | null>;
    readonly changes: Changes;
  };
  'ticket.kind-changed': {
    readonly kind: Was<Kind>;
    readonly ownKind: string | null;
  };
  'ticket.subject-set': { readonly subject: Was<string> };
  'ticket.fields-filled': { readonly values: Readonly<Record<string, Was<unknown>>> };
  'ticket.resolution-written': Nothing;
  'ticket.moved-to-client': { readonly clientId: Was<Id<'client'> | null>; readonly client: string; readonly effects: readonly string[] };
  'ticket.promise-version-taken': { readonly versionId: Was<string | null> };
  'ticket.due-soon': { readonly clock: string; readonly left: string; readonly percent: number };
  'ticket.checklist-put': { readonly checklist: string; readonly items: number };
  'ticket.checklist-item-added': { readonly item: string; readonly owner: string | null };
  'ticket.checklist-item-answered': { readonly item: string; readonly answer: ChecklistAnswer | null };
  'ticket.fee-set': {
    readonly feeId: Id<'flat_fee'>;
    readonly fee: string;
    readonly quantity: number;
    /** The client must agree first. */
    readonly asked: boolean;
    /** What was charged for a fee that it had before. */
    readonly insteadOfChargeId: string | null;
  };
  'ticket.fee-removed': { readonly reason: string; readonly chargeId: Id<'charge'> | null };
  /** By the client's contact, who is who did it. */
  'ticket.fee-answered': { readonly agrees: boolean };
  'ticket.fee-job-ended': { readonly result: 'success' | 'failed'; readonly note: string | null };
  'ticket.fee-hint-dismissed': Nothing;
}

const assigned = (name: string | null): string => (name === null ? '' : `, assigned to ${name}`);

export const ticketWords: WordsOf<TicketEvents> = {
  'ticket.opened': sayOpened,
  'ticket.routed': ({ desk, ownKind, kind, category, priority: [, priority], assignee, why }) => ({
    what: `routed to ${desk} as ${ownKind ?? kind}, ${category}, ${priority}${assigned(assignee)}`,
    detail: why.map(({ rule, figure }) => [rule, figure?.value].filter(Boolean).join(' ')).join('; ') || null,
  }),
  'ticket.triage-taken-back': () => 'took the triage back',
  'ticket.not-work-set': ({ notWork }) => (notWork ? 'marked as not work' : 'brought back from not work'),
  'ticket.mail-rule-applied': ({ rule, did }) => `${did === 'looked' ? 'looked at' : 'sorted'} by the mail rule ${rule}`,
  'ticket.mail-rule-refused': ({ rule, why }) => ({ what: `not sorted by the mail rule ${rule}`, detail: why }),
  'ticket.handed-over': ({ desk, line: [, line], assignee, tried }) => ({
    what: `handed to ${desk}, ${line} line${assigned(assignee)}`,
    detail: tried,
  }),
  'ticket.assigned': ({ assignee: [, is] }) => `assigned to ${is ?? 'nobody'}`,
  'ticket.moved': ({ status: [, to], holdReason, ownStatus }) => {
    const plain = `${to}${holdReason ? `, waiting for the ${holdReason}` : ''}`;
    return ownStatus === null ? plain : `${ownStatus} (${plain})`;
  },
  'ticket.move-undone': ({ status: [was, is] }) => `undid that it was ${was}: ${is} again`,
  'ticket.checks-passed-over': ({ to, reason, obstacles }) => ({ what: `${to} past closing checks: ${reason}`, detail: obstacles }),
  'ticket.changed': ({ priority: [was, is], changes }) =>
    was === is ? `changed ${sayChanges(changes) || 'nothing'}` : `changed priority from ${was} to ${is}`,
  'ticket.kind-changed': ({ kind: [was, is], ownKind }) =>
    `changed from ${was} to ${ownKind ?? is}: its promises, closing checks and billing hold now`,
  'ticket.subject-set': () => 'gave it a clearer subject',
  'ticket.fields-filled': ({ values }) => `filled ${Object.keys(values).join(', ')}`,
  'ticket.resolution-written': () => 'wrote what was done',
  'ticket.moved-to-client': ({ client, effects }) => ({ what: `moved to ${client}`, detail: effects.join('; ') }),
  'ticket.promise-version-taken': () => 'took the new version of its promise',
  'ticket.due-soon': (data) => sayDueSoon(data),
  'ticket.checklist-put': ({ checklist, items }) => `put the checklist ${checklist} on it, ${plural(items, 'item')}`,
  'ticket.checklist-item-added': ({ item, owner }) => `added "${item}" to the checklist${owner === null ? '' : ` for ${owner}`}`,
  'ticket.checklist-item-answered': ({ item, answer }) => `answered "${item}": ${answer ?? 'open again'}`,
  'ticket.fee-set': ({ fee, quantity, asked }) => `is ${quantity} × ${fee} at a flat fee${asked ? '; the client is asked' : ''}`,
  'ticket.fee-removed': ({ reason }) => `took the flat fee off: ${reason}`,
  'ticket.fee-answered': ({ agrees }) => `${agrees ? 'agreed' : 'did not agree'} to the flat fee`,
  'ticket.fee-job-ended': ({ result, note }) => ({
    what: result === 'success' ? 'the job succeeded' : `the job failed: ${note}`,
    detail: note,
  }),
  'ticket.fee-hint-dismissed': () => 'is no flat-fee job, though it looks like one',
};

function sayOpened(data: TicketEvents['ticket.opened']): string {
  switch (data.how) {
    case 'mail':
      return 'opened it by a mail';
    case 'form':
      return `opened it with the form ${data.form}`;
    case 'hand':
      return `opened it by hand for ${data.whom}`;
    case 'call':
      return `opened it on a call of ${data.whom}`;
    case 'umbrella':
      return `opened it as an umbrella at ${data.desk}, ${data.priority}`;
  }
}

export function sayDueSoon({ clock, left, percent }: TicketEvents['ticket.due-soon']): string {
  return `${clock} is due in ${left}: ${percent} % of the promise is used`;
}
