import { count, date, defineRoutes, id, list, optionalDate, optionalDay, optionalText, record, text, yes, type Wire } from '../../ground';

export const teamWeekSchema = record({
  days: list(date()),
  people: list(
    record({
      id: id('person'),
      name: text(),
      team: optionalText(),
      completeUpTo: optionalDate(),
      /** Whether all their days that have come, with anything expected, lie before what is declared complete. */
      complete: yes(),
      /** Entries and expenses of the week that wait for approval, how many of them look odd, and what was returned and not changed yet. */
      waiting: count(),
      odd: count(),
      returned: count(),
      approvedMinutes: count(),
      days: list(record({ day: date(), expectedMinutes: count(), recordedMinutes: count(), closed: yes(), ahead: yes() })),
    }),
  ),
});
export type TeamWeekWire = Wire<typeof teamWeekSchema>;

export const teamWeekRoutes = defineRoutes({
  getTeamWeek: {
    method: 'GET',
    path: '/team-week',
    summary: 'A week of everybody who records time: expected and recorded by day, and who is complete up to when',
    permission: 'setup.read',
    query: record({ day: optionalDay() }),
    answer: teamWeekSchema,
  },
});
