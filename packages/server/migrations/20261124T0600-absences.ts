import type { Knex } from 'knex';

/** Absence is asked for and approved; days are counted in halves, so that they are whole numbers. */
export async function up(knex: Knex): Promise<void> {
  await knex.raw(`
    create table absence_kind (
      id uuid primary key default gen_random_uuid(), name text not null, has_balance boolean not null, year_halves int not null default 0 check (year_halves >= 0),
      carry_halves int not null default 0 check (carry_halves >= 0), carry_until text not null default '03-31', position int not null default 0,
      archived_at timestamptz, version int not null default 1
    );
    -- What somebody has in a year where it is not what the kind says.
    create table absence_grant (
      person_id uuid not null references person, kind_id uuid not null references absence_kind, year int not null, halves int not null check (halves >= 0), primary key (person_id, kind_id, year)
    );
    -- Days and instants are by the working pattern of when it was asked for, or decided on last; days has halves by date.
    create table absence (
      id uuid primary key default gen_random_uuid(), person_id uuid not null references person, kind_id uuid not null references absence_kind, from_day date not null, to_day date not null,
      from_middle boolean not null, to_middle boolean not null, starts_at timestamptz not null, ends_at timestamptz not null, days jsonb not null,
      note text, state text not null check (state in ('requested','approved','refused','withdrawn')),
      requested_at timestamptz not null, decided_by uuid references person, decided_at timestamptz, remark text, version int not null default 1,
      check (from_day <= to_day), check (starts_at < ends_at)
    );
    create index on absence (person_id, from_day);
    create index on absence (from_day) where state in ('requested','approved');
    alter table time_off add column absence_id uuid references absence;
  `);
}

export async function down(knex: Knex): Promise<void> {
  await knex.raw(`
    delete from time_off where absence_id is not null;
    alter table time_off drop column absence_id;
    drop table absence, absence_grant, absence_kind;
  `);
}
