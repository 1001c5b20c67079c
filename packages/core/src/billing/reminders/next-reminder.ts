import { daysBetween, type LocalDate, plusDays } from '../../ground';

/** A step of reminding: so many whole days after an invoice was due. */
export interface ReminderStep {
  readonly afterDays: number;
}

export interface Owed {
  readonly dueOn: LocalDate;
  /** The days on which it was reminded of, in order: one for each step that was taken. */
  readonly remindedOn: readonly LocalDate[];
  /** The last day on which nothing is sent of it or to its client; "always" where somebody has to end it. */
  readonly pausedUntil: LocalDate | 'always' | null;
}

export type NextReminder =
  /** The step, from 0, and its day; due where that is not after today. */
  { readonly is: 'on'; readonly step: number; readonly day: LocalDate } | { readonly is: 'paused' } | { readonly is: 'all sent' };

/**
 * When an invoice is reminded of next: so many days after it was due as its next step says, and no sooner after the last
 * one than the steps lie apart; after a pause, on the day after it. Source: docs/calculations.md, Reminders.
 */
export function nextReminder({ dueOn, remindedOn, pausedUntil }: Owed, steps: readonly ReminderStep[]): NextReminder {
  const step = remindedOn.length;
  const next = steps[step];
  if (!next) return { is: 'all sent' };
  if (pausedUntil === 'always') return { is: 'paused' };
  const last = remindedOn.at(-1);
  const days = [plusDays(dueOn, next.afterDays)];
  if (last) days.push(plusDays(last, next.afterDays - steps[step - 1]!.afterDays));
  if (pausedUntil) days.push(plusDays(pausedUntil, 1));
  return { is: 'on', step, day: days.reduce((a, b) => (daysBetween(a, b) > 0 ? b : a)) };
}
