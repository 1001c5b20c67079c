import type { Knex } from 'knex';

/** Secrets are kept as hashes; tries to sign in are counted where all processes see them; passwords are set anew by a link. */
export async function up(knex: Knex): Promise<void> {
  await knex.raw(`
    delete from schedule_feed;
    delete from status_link;
    update opening_set set state = 'lapsed' where state = 'open';
    alter table schedule_feed drop column token, add column nonce text not null, add column token_hash bytea not null unique;
    alter table status_link drop column token, add column nonce text not null, add column token_hash bytea primary key;
    alter table opening_set drop column token, add column nonce text, add column token_hash bytea unique;

    -- By the machine's own clock: the demo's may stand.
    alter table sign_in add column tried_at timestamptz not null default now();
    create index sign_in_failed_by_account on sign_in (lower(email), tried_at) where not ok;
    create index sign_in_failed_by_address on sign_in (address, tried_at) where not ok;

    create table password_reset (
      id uuid primary key default gen_random_uuid(), person_id uuid not null references person, nonce text not null, token_hash bytea not null unique,
      made_at timestamptz not null default now(), made_by uuid references person, used_at timestamptz
    );
    create index on password_reset (person_id, made_at);
    create index session_person on session ((sess ->> 'personId'));
  `);
}

export async function down(knex: Knex): Promise<void> {
  await knex.raw(`
    drop table password_reset;
    drop index session_person;
    alter table sign_in drop column tried_at;
    alter table opening_set drop column nonce, drop column token_hash, add column token text;
    alter table status_link drop column nonce, drop column token_hash, add column token text;
    alter table schedule_feed drop column nonce, drop column token_hash, add column token text;
  `);
}
