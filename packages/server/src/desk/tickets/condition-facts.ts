import type { ConditionFacts } from '@core/ground';
import type { Row } from '../../app/rows';

/** What of a ticket conditions look at; one that is not opened yet has little of it. */
type FactColumns = Row<'ticket', 'kind' | 'status' | 'category_id' | 'subject' | 'asset_id' | 'is_umbrella' | 'fields'> &
  Partial<Row<'ticket', 'own_kind_id' | 'priority' | 'impact' | 'urgency' | 'line' | 'desk_id' | 'client_id' | 'resolution'>>;

/** What conditions look at, from a ticket's row and the minutes logged on it. */
export function conditionFacts(t: FactColumns, minutes: number): ConditionFacts {
  return {
    ticket: {
      kind: t.kind,
      ownKind: t.own_kind_id ?? null,
      status: t.status,
      priority: t.priority ?? null,
      impact: t.impact ?? null,
      urgency: t.urgency ?? null,
      line: t.line ?? null,
      desk: t.desk_id ?? null,
      category: t.category_id,
      client: t.client_id ?? null,
      subject: t.subject,
      resolution: t.resolution ?? null,
      asset: t.asset_id !== null,
      umbrella: t.is_umbrella,
      minutes,
    },
    field: (t.fields ?? {}) as ConditionFacts['field'],
  };
}
