import { type Currency, type Id, type LocalDate, type Money, sumMoney } from '../../ground';
import type { Kind } from '../../desk';
import type { UsedContract } from './used-contract';

/** What became of a piece of work: charged, covered in full by a contract, or waived by a decision. */
export const USAGE_TREATMENTS = ['charged', 'covered', 'waived'] as const;
export type UsageTreatment = (typeof USAGE_TREATMENTS)[number];

/** An entry of the client as the report takes it; minutes are whole, the amount is before tax. */
export interface UsageEntry {
  readonly ticketId: Id<'ticket'>;
  readonly kind: Kind;
  readonly billable: boolean;
  readonly number: number;
  readonly subject: string;
  readonly contact: string | null;
  readonly status: string;
  readonly done: string | null;
  readonly on: LocalDate;
  readonly person: string;
  readonly activity: string;
  readonly minutes: number;
  readonly net: Money;
  readonly treatment: UsageTreatment;
  /** Of its minutes, those that a contract took. */
  readonly coveredMinutes: number;
}

export interface UsageTicket {
  readonly id: string;
  readonly number: number;
  readonly subject: string;
  readonly contact: string | null;
  readonly status: string;
  readonly done: string | null;
  readonly minutes: number;
  readonly chargedMinutes: number;
  readonly coveredMinutes: number;
  readonly net: Money;
  readonly work: readonly Pick<UsageEntry, 'on' | 'person' | 'activity' | 'minutes' | 'treatment' | 'coveredMinutes'>[];
}

/** What was done for a client in a span, from its first day to its last. */
export interface UsageReport {
  readonly provider: string;
  readonly client: string;
  readonly clientId: Id<'client'>;
  readonly from: LocalDate;
  readonly to: LocalDate;
  readonly tickets: readonly UsageTicket[];
  readonly minutes: number;
  readonly chargedMinutes: number;
  readonly coveredMinutes: number;
  readonly net: Money;
  readonly contracts: readonly UsedContract[];
}

type Head = Pick<UsageReport, 'provider' | 'client' | 'clientId' | 'from' | 'to' | 'contracts'>;

/** Whether work stands in the client's report: not that of a flat-fee job, nor what is not billable. Source: docs/calculations.md, What charges nothing. */
export const isReported = ({ kind, billable }: Pick<UsageEntry, 'kind' | 'billable'>): boolean => billable && kind !== 'flat-fee job';

/** Sums what is reported by ticket, in the order of the tickets' numbers. */
export function usageReport(head: Head, currency: Currency, entries: readonly UsageEntry[]): UsageReport {
  const byTicket = new Map<string, UsageEntry[]>();
  for (const e of entries.filter(isReported)) byTicket.set(e.ticketId, [...(byTicket.get(e.ticketId) ?? []), e]);
  const tickets = [...byTicket.values()].map((work) => ticketOf(currency, work)).sort((a, b) => a.number - b.number);
  return {
    ...head,
    tickets,
    minutes: sum(tickets, (t) => t.minutes),
    chargedMinutes: sum(tickets, (t) => t.chargedMinutes),
    coveredMinutes: sum(tickets, (t) => t.coveredMinutes),
    net: sumMoney(
      tickets.map((t) => t.net),
      currency,
    ),
  };
}

function ticketOf(currency: Currency, work: readonly UsageEntry[]): UsageTicket {
  const { ticketId: id, number, subject, contact, status, done } = work[0]!;
  const charged = work.filter((e) => e.treatment === 'charged');
  return {
    id,
    number,
    subject,
    contact,
    status,
    done,
    minutes: sum(work, (e) => e.minutes),
    chargedMinutes: sum(charged, (e) => e.minutes - e.coveredMinutes),
    coveredMinutes: sum(
      work.filter((e) => e.treatment !== 'waived'),
      (e) => e.coveredMinutes,
    ),
    net: sumMoney(
      charged.map((e) => e.net),
      currency,
    ),
    work: [...work]
      .sort((a, b) => (a.on < b.on ? -1 : a.on > b.on ? 1 : 0))
      .map(({ on, person, activity, minutes, treatment, coveredMinutes }) => ({
        on,
        person,
        activity,
        minutes,
        treatment,
        coveredMinutes,
      })),
  };
}

const sum = <T>(all: readonly T[], of: (one: T) => number): number => all.reduce((n, one) => n + of(one), 0);
