import type { Knex } from 'knex';
import { plusDays, plusSeconds, dateOf, weekdayOf, type Instant, type LocalDate, type Zone } from '@core/ground';
import { countAbsence } from '../../time/absences/count-absence';
import type { HouseBook } from '../../house/house/house-book';
import { at } from '../database';

const KINDS = [
  { name: 'Annual leave', has_balance: true, year_halves: 50, carry_halves: 10, position: 1 },
  { name: 'Sick leave', has_balance: false, position: 2 },
  { name: 'Study leave', has_balance: true, year_halves: 10, position: 3 },
] as const;

interface Told {
  readonly who: string;
  readonly kind: (typeof KINDS)[number]['name'];
  /** Days from the Monday of the story's week. */
  readonly from: number;
  readonly to: number;
  readonly state: 'approved' | 'requested' | 'refused';
  readonly fromMiddle?: boolean;
  readonly note?: string;
  readonly remark?: string;
}
/** Summer weeks lie before the demo's first entries, so that nobody worked while they were away. */
const ABSENCES: readonly Told[] = [
  { who: 'Marisol Quintero', kind: 'Annual leave', from: -140, to: -129, state: 'approved' },
  { who: 'Deepa Raghunathan', kind: 'Annual leave', from: -147, to: -136, state: 'approved' },
  { who: 'Fionn Hartigan', kind: 'Annual leave', from: -133, to: -122, state: 'approved' },
  { who: 'Yusuf Demirel', kind: 'Annual leave', from: -161, to: -150, state: 'approved' },
  { who: 'Ines Valadares', kind: 'Annual leave', from: -154, to: -136, state: 'approved' },
  { who: 'Callum Strachan', kind: 'Annual leave', from: 1, to: 2, state: 'approved' },
  { who: 'Sora Minegishi', kind: 'Annual leave', from: -126, to: -115, state: 'approved' },
  { who: 'Piotr Zaleski', kind: 'Study leave', from: -119, to: -117, state: 'approved' },
  { who: 'Piotr Zaleski', kind: 'Annual leave', from: 35, to: 38, state: 'approved' },
  {
    who: 'Hanna Lindqvist',
    kind: 'Annual leave',
    from: 28,
    to: 32,
    state: 'requested',
    note: 'The flights north are cheaper on the Monday.',
  },
  { who: 'Odalys Figueroa', kind: 'Annual leave', from: 30, to: 32, state: 'approved' },
  { who: 'Yusuf Demirel', kind: 'Annual leave', from: 11, to: 11, state: 'requested', fromMiddle: true, note: 'School play' },
  { who: 'Sora Minegishi', kind: 'Study leave', from: 14, to: 15, state: 'requested', note: 'The exam is on the Tuesday.' },
  { who: 'Deepa Raghunathan', kind: 'Annual leave', from: 42, to: 46, state: 'approved' },
  {
    who: 'Ines Valadares',
    kind: 'Annual leave',
    from: 7,
    to: 8,
    state: 'refused',
    remark: 'Two of the projects desk are away on the Monday already.',
  },
];

/** Who was, is and will be away, with what waits for a decision. */
export async function loadDemoAbsences(
  tx: Knex.Transaction,
  book: HouseBook,
  { story, zone }: { readonly story: Instant; readonly zone: Zone },
): Promise<void> {
  const kinds = await tx('absence_kind').insert(KINDS).returning(['id', 'name']);
  const aoife = (await tx('person').where({ name: 'Aoife Brannigan' }).first('id'))!;
  const today = dateOf(story, zone);
  const monday = plusDays(today, 1 - weekdayOf(today));
  for (const { who, kind, from, to, state, fromMiddle = false, note, remark } of ABSENCES) {
    const person = (await tx('person').where({ name: who }).first('id'))!;
    const [first, last]: [LocalDate, LocalDate] = [plusDays(monday, from), plusDays(monday, to)];
    const counted = await countAbsence(tx, book, { personId: person.id, off: { from: first, to: last, fromMiddle, toMiddle: false } });
    const span = { starts_at: at(counted.from), ends_at: at(counted.to) };
    const decided = state === 'requested' ? {} : { decided_by: aoife.id, decided_at: at(plusSeconds(story, -20 * 3600)) };
    const [absence] = await tx('absence')
      .insert({
        person_id: person.id,
        kind_id: kinds.find((k) => k.name === kind)!.id,
        from_day: first,
        to_day: last,
        from_middle: fromMiddle,
        to_middle: false,
        ...span,
        days: JSON.stringify(Object.fromEntries(counted.days)),
        note,
        remark,
        state,
        requested_at: at(plusSeconds(story, -26 * 3600)),
        ...decided,
      })
      .returning('id');
    if (state === 'approved') await tx('time_off').insert({ ...span, person_id: person.id, reason: kind, absence_id: absence!.id });
  }
}
