import { CHECKED_MOVES, deskSettingsRoutes, SORTED_KINDS } from '@core/desk';
import { refuse } from '@core/ground';
import type { App } from '../../app/app';
import { bindRoutes } from '../../app/bind-routes';
import { HOUSE_STORY } from '../../house';

export function bindDeskSettings(app: App) {
  return bindRoutes(app, deskSettingsRoutes, {
    getDeskSettings: async ({ db }) => {
      const { closing, alwaysAsked, closeAfterDates, reopenDays } = app.house.house.tickets;
      const rules = CHECKED_MOVES.flatMap((move) =>
        SORTED_KINDS.map((kind) => ({ move, kind, checks: [...(closing.rules[move]?.[kind] ?? [])] })),
      );
      return {
        kinds: SORTED_KINDS.map((kind) => {
          const { offered, promiseId, asksTime, activityIds } = app.house.kindRule(kind);
          return { kind, offered, promiseId, asksTime: [...asksTime], activityIds: [...activityIds] };
        }),
        closing: { rules, alwaysAsked: [...alwaysAsked], closeAfterDates, reopenDays },
        reaches: await db('desk').orderBy('position').select('id as deskId', 'inside_reach as reach'),
      };
    },
    setClosing: async ({ work, body }) => {
      await work.tx('ticket_settings').update({
        closing_rules: JSON.stringify(
          Object.fromEntries(
            CHECKED_MOVES.map((move) => [
              move,
              Object.fromEntries(body.rules.filter((r) => r.move === move && r.checks.length).map((r) => [r.kind, r.checks])),
            ]),
          ),
        ),
        always_asked: body.alwaysAsked,
        close_after_dates: body.closeAfterDates,
        reopen_days: body.reopenDays,
      });
      await work.tell('setup.moves-changed', HOUSE_STORY, {});
      return {};
    },
    setKinds: async ({ work, body }) => {
      const rows = body.kinds.map((k) => ({
        kind: k.kind,
        offered: k.offered,
        promise_id: k.promiseId,
        asks_time: k.asksTime,
        activity_ids: k.activityIds,
      }));
      if (rows.length) await work.tx('kind_rule').insert(rows).onConflict('kind').merge();
      const withheld: string[] = await work.tx('kind_rule').where({ offered: false }).pluck('kind');
      if (SORTED_KINDS.every((kind) => withheld.includes(kind)))
        return refuse('invalid', 'Offer at least one kind.', { kinds: 'at least one' });
      await work.tell('setup.kinds-changed', HOUSE_STORY, {});
      return {};
    },
  });
}
