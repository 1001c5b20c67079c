import type { ConditionFacts } from '@core/ground';
import type { Columns } from '../../app/database';

/** What conditions look at, from a ticket's row and the minutes logged on it. */
export function conditionFacts(t: Columns, minutes: number): ConditionFacts {
  return {
    ticket: {
      kind: t['kind'],
      ownKind: t['own_kind_id'] ?? null,
      status: t['status'],
      priority: t['priority'],
      impact: t['impact'],
      urgency: t['urgency'],
      line: t['line'],
      desk: t['desk_id'],
      category: t['category_id'],
      client: t['client_id'],
      subject: t['subject'],
      resolution: t['resolution'],
      asset: t['asset_id'] !== null,
      umbrella: t['is_umbrella'],
      minutes,
    },
    field: t['fields'] ?? {},
  };
}
