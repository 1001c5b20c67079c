import { dateOf, type Explanation, type Id, type Instant, parseCalendar, plusDays, plusSeconds, workingIntervals } from '@core/ground';
import { type Candidate, chooseTechnician, type Line } from '@core/desk';
import { at, type Db } from '../../app/database';
import type { HouseBook } from '../../house';

export interface LineQuestion {
  readonly deskId: Id<'desk'>;
  readonly line: Line;
  readonly categoryId: Id<'category'> | null;
  readonly clientId: Id<'client'> | null;
}

/** What a piece of open work counts for where nobody estimated it. */
const USUAL_MINUTES = 30;
const LATELY_SECONDS = 90 * 86_400;

/** Whom a ticket goes to by how its desk's line assigns, with why. */
export async function assignByLine(
  db: Db,
  book: HouseBook,
  { now, question }: { readonly now: Instant; readonly question: LineQuestion },
): Promise<{ personId: Id<'person'> | null; why: Explanation }> {
  const line = await db('desk_line').where({ desk_id: question.deskId, line: question.line }).first();
  if (!line) return { personId: null, why: [{ rule: 'nobody staffs this line of the desk' }] };
  if (line.assigns === 'nobody') return { personId: null, why: chooseTechnician('nobody', []).explanation };
  const { id, explanation } = chooseTechnician(line.assigns, await readCandidates(db, book, { now, teamId: line.team_id, question }));
  return { personId: id, why: explanation };
}

/** Somebody of a line's team, their hours, and how things stand with them now. */
interface LineRow {
  readonly id: Id<'person'>;
  readonly name: string;
  readonly week: string[][] | null;
  readonly skilled: boolean;
  readonly off: boolean;
  readonly booked: number;
  readonly open: number;
  readonly usual: number;
}

async function readCandidates(
  db: Db,
  book: HouseBook,
  { now, teamId, question }: { readonly now: Instant; readonly teamId: Id<'team'>; readonly question: LineQuestion },
): Promise<Candidate[]> {
  const skill = question.categoryId ? (await db('category').where({ id: question.categoryId }).first('skill_id'))?.skill_id : null;
  const { rows }: { rows: LineRow[] } = await db.raw(
    `select p.id, p.name, h.week,
       exists (select 1 from person_skill s where s.person_id = p.id and s.skill_id = :skill::uuid) as skilled,
       exists (select 1 from time_off o where o.person_id = p.id and o.starts_at <= :now and o.ends_at > :now) as off,
       coalesce((select sum(extract(epoch from b.ends_at - greatest(b.starts_at, :now::timestamptz)) / 60) from booking b
         where b.person_id = p.id and b.state in ('planned','underway') and b.ends_at > :now), 0)::int as booked,
       coalesce((select sum(coalesce(t.estimate_minutes, :usual)) from ticket t where t.assignee_id = p.id and t.status in ('queued','underway')
         and not exists (select 1 from booking b where b.ticket_id = t.id and b.state in ('planned','underway'))), 0)::int as open,
       (select count(distinct e.ticket_id) from time_entry e where e.person_id = p.id and e.client_id = :client::uuid
         and e.starts_at > :lately and e.removed_at is null)::int as usual
     from person p left join person_hours h on h.person_id = p.id
     where p.team_id = :team and p.technician and p.active order by p.name`,
    {
      skill: skill ?? null,
      now: at(now),
      usual: USUAL_MINUTES,
      client: question.clientId,
      lately: at(plusSeconds(now, -LATELY_SECONDS)),
      team: teamId,
    },
  );
  return rows.map((r): Candidate => ({
    id: r['id'],
    name: r['name'],
    atWork: !r['off'] && worksAt(book, r, now),
    skilled: !skill || r['skilled'],
    bookedMinutes: r['booked'],
    openMinutes: r['open'],
    ticketsOfClient: r['usual'],
  }));
}

/** Whether the day's pattern has working time left: who starts at ten is at work for what comes in at nine. */
function worksAt(book: HouseBook, person: LineRow, now: Instant): boolean {
  if (!person['week']) return false;
  const { zone } = book.house;
  const today = dateOf(now, zone);
  const calendar = parseCalendar({ name: person['name'], zone, week: person['week'] });
  return workingIntervals(calendar, today, plusDays(today, 1)).some((i) => i.to > now);
}
