/**
 * When work is due, in SQL: when its resolution is. What it owes before, such as an answer, no booking gives.
 * @param t the alias of the ticket
 */
export function resolutionDue(t: string): string {
  return `(select coalesce(k.due_at, k.missed_at) from ticket_clock k where k.ticket_id = ${t}.id and k.clock = 'resolution' and k.ended_at is null)`;
}
