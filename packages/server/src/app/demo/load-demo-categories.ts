import type { Knex } from 'knex';
import { dateOf, instantAt, plusDays, weekdayOf, type Instant, type Zone } from '@core/ground';
import { at } from '../database';
import { SMALL_CATEGORIES } from './demo-small-causes';
import { DEMO_CATEGORIES, DEMO_LINES, DEMO_SKILLS } from './demo-categories';

/** Loads categories, skills and the lines of the desks. */
export async function loadDemoCategories(tx: Knex.Transaction): Promise<void> {
  const people = await tx('person').select('id', 'name');
  const skills = new Map<string, string>();
  for (const [name, who] of Object.entries(DEMO_SKILLS)) {
    const [skill] = await tx('skill').insert({ name }).returning('id');
    skills.set(name, skill!.id);
    await tx('person_skill').insert(
      Object.entries(who).map(([person, level]) => ({ person_id: people.find((p) => p.name === person)!.id, skill_id: skill!.id, level })),
    );
  }
  for (const [position, top] of DEMO_CATEGORIES.entries()) {
    const [parent] = await tx('category').insert({ name: top.name, position }).returning('id');
    await tx('category').insert(
      top.children.map((child, i) => ({
        parent_id: parent!.id,
        name: child.name,
        position: i,
        skill_id: child.skill ? skills.get(child.skill) : null,
      })),
    );
  }
  const [desks, teams] = [await tx('desk').select('id', 'name', 'team_id'), await tx('team').select('id', 'name')];
  await tx('desk_line')
    .insert(desks.map((d) => ({ desk_id: d.id, line: 'first', team_id: d.team_id, assigns: 'nobody' })))
    .onConflict(['desk_id', 'line'])
    .ignore();
  for (const { desk, line, team, assigns } of DEMO_LINES)
    await tx('desk_line')
      .insert({ desk_id: desks.find((d) => d.name === desk)!.id, line, team_id: teams.find((t) => t.name === team)!.id, assigns })
      .onConflict(['desk_id', 'line'])
      .merge();
}

/** The suppliers, who are no clients, and who is on call outside working hours this week and next. */
export async function loadDemoOnCall(tx: Knex.Transaction, story: Instant, zone: Zone): Promise<void> {
  await tx('third_party').insert([
    { name: 'Northquay Distribution', address: 'northquay.example' },
    { name: 'Ferro & Pine Components', address: 'ferropine.example' },
    { name: 'Bluecrane Wholesale', address: 'bluecrane.example' },
  ]);
  const people = await tx('person').whereIn('name', ['Yusuf Demirel', 'Ines Valadares']).orderBy('name', 'desc').select('id');
  const monday = plusDays(dateOf(story, zone), 1 - weekdayOf(dateOf(story, zone)));
  await tx('on_call').insert(
    people.map((p, week) => ({
      person_id: p.id,
      starts_at: at(instantAt(plusDays(monday, week * 7), 8 * 60, zone)),
      ends_at: at(instantAt(plusDays(monday, week * 7 + 7), 8 * 60, zone)),
    })),
  );
}

/** The category of a topic, by the first of its subjects. */
export function categoryOfTopic(categories: readonly { id: string; name: string }[], subject: string): string {
  const name = SMALL_CATEGORIES.get(subject) ?? DEMO_CATEGORIES.flatMap((c) => c.children).find((c) => c.topics.includes(subject))?.name;
  if (!name) throw new Error(`no category of the demo has the topic "${subject}"`);
  return categories.find((c) => c.name === name)!.id;
}
