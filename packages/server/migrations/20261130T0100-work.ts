import type { Knex } from 'knex';

/** Tables of what is done on work, with what an index of their ticket leaves out and what is unique besides. */
const ON_WORK = ['booking', 'timer', 'time_entry', 'expense', 'checklist_item'];

/**
 * Work of any kind is one thing that bookings, timers, time, expenses and checklists point at: a ticket, internal work, a
 * task of a project. The database keeps that each points at exactly one, and knows which are tickets.
 */
export async function up(knex: Knex): Promise<void> {
  await knex.raw(`
    create table work (id uuid primary key, kind text not null check (kind in ('ticket','internal work','project task')), unique (id, kind));
    insert into work (id, kind) select id, 'ticket' from ticket union all select id, 'internal work' from internal_work;
    create function be_work() returns trigger language plpgsql as $$ begin insert into work (id, kind) values (new.id, tg_argv[0]); return new; end $$;
    create trigger be_work before insert on ticket for each row execute function be_work('ticket');
    create trigger be_work before insert on internal_work for each row execute function be_work('internal work');
    alter table ticket add foreign key (id) references work;
    alter table internal_work add foreign key (id) references work, add column general boolean not null default false;
    -- What is done on nothing that has a name.
    create unique index internal_work_general on internal_work (general) where general;
    insert into internal_work (name, general) values ('Other internal work', true);
    -- The one place that knows of each kind what all that is done on work asks of it.
    create view work_facts as
      select t.id, 'ticket'::text as kind, t.number, t.subject, t.division_id, t.client_id, t.contact_id,
        coalesce((select site_id from contact where id = t.contact_id), (select site_id from asset where id = t.asset_id)) as site_id,
        t.category_id, t.desk_id, t.assignee_id, t.priority, t.kind as ticket_kind, t.needs_visit, t.estimate_minutes,
        t.status in ('resolved','closed') as ended, t.closed_at
      from ticket t
      union all
      select i.id, 'internal work', null::int, i.name, null::uuid, null::uuid, null::uuid, null::uuid, null::uuid, null::uuid, null::uuid, null::text, null::text,
        false, null::int, i.archived_at is not null, null::timestamptz
      from internal_work i;
    create function know_work() returns trigger language plpgsql as $$ begin
      select kind into new.work_kind from work where id = new.work_id; return new; end $$;
  `);
  for (const table of ON_WORK) await pointAtWork(knex, table);
  await knex.raw(`
    alter table timer add unique (person_id, work_id);
    create index on booking (work_id);
    create index on time_entry (work_id);
    create index on checklist_item (ticket_id);
    create index on expense (work_id);
  `);
}

async function pointAtWork(knex: Knex, table: string): Promise<void> {
  const internal = table === 'time_entry' ? 'internal_id,' : '';
  await knex.raw(`
    alter table ${table} add column work_id uuid, add column work_kind text;
    update ${table} set work_id = coalesce(ticket_id, ${internal} (select id from internal_work where general));
    update ${table} set work_kind = (select kind from work where id = work_id);
    alter table ${table} drop column ticket_id ${internal ? ', drop column internal_id' : ''};
    alter table ${table} alter column work_id set not null, alter column work_kind set not null,
      add foreign key (work_id, work_kind) references work (id, kind),
      add column ticket_id uuid generated always as (case when work_kind = 'ticket' then work_id end) stored;
    create trigger know_work before insert or update of work_id on ${table} for each row execute function know_work();
  `);
}

export async function down(knex: Knex): Promise<void> {
  for (const table of ON_WORK)
    await knex.raw(`
      drop trigger know_work on ${table};
      alter table ${table} drop column ticket_id;
      alter table ${table} add column ticket_id uuid references ticket;
      update ${table} set ticket_id = work_id where work_kind = 'ticket';
    `);
  await knex.raw(`
    alter table time_entry add column internal_id uuid references internal_work;
    update time_entry set internal_id = work_id where work_kind = 'internal work' and work_id not in (select id from internal_work where general);
  `);
  for (const table of ON_WORK) await knex.raw(`alter table ${table} drop column work_id, drop column work_kind`);
  await knex.raw(`
    drop view work_facts;
    drop trigger be_work on ticket; drop trigger be_work on internal_work;
    delete from internal_work where general;
    alter table internal_work drop column general, drop constraint internal_work_id_fkey;
    alter table ticket drop constraint ticket_id_fkey;
    drop table work;
    drop function be_work; drop function know_work;
    alter table timer add unique (person_id, ticket_id);
    create index on booking (ticket_id); create index on time_entry (ticket_id); create index on checklist_item (ticket_id); create index on expense (ticket_id);
  `);
}
