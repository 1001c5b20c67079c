import type { Knex } from 'knex';

/** What mail says of itself, what was left out of it, what was put aside, and the house's rules for it. */
export async function up(knex: Knex): Promise<void> {
  await knex.raw(`
    -- An absence with its dates, or what a delivery report said.
    alter table message add column notice jsonb;
    -- Of a mail that was too large in some way: what stands in the raw source alone.
    alter table message add column left_out text[] not null default '{}';
    -- Of a message of ours: what became of it on its way to each address.
    alter table message add column deliveries jsonb not null default '[]';
    alter table message add column undelivered_at timestamptz;
    create index on message using gin (reference_ids);
    -- An address that mail could not be delivered to, and why.
    alter table contact add column mail_trouble text, add column mail_trouble_at timestamptz;

    create table mail_rule (
      id uuid primary key default gen_random_uuid(), name text not null, position int not null,
      sender text not null default '', subject text not null default '', header text not null default '', header_holds text not null default '',
      does text not null check (does in ('aside', 'route')), reason text,
      kind text, impact text, urgency text, line text, category_id uuid references category, desk_id uuid references desk, client_id uuid references client, asset_id uuid references asset,
      archived_at timestamptz, version int not null default 1,
      check (sender <> '' or subject <> '' or header_holds <> '')
    );
    create table mail_aside (
      source_id uuid primary key references mail_source, at timestamptz not null, sender text not null, subject text not null, reason text not null, rule_id uuid references mail_rule,
      ticket_id uuid references ticket, ended_at timestamptz, ended_by uuid references person
    );
    -- Why a look inside is owed: a third party wrote, or our mail did not arrive.
    alter table ticket add column look_is text check (look_is in ('third party', 'not delivered'));
    update ticket set look_is = 'third party' where look_since is not null;
    alter table invoice_standing add column undelivered_at timestamptz;
    -- What rules look at, so that a new one can be tried on the latest mails.
    alter table mail_source add column headers jsonb not null default '{}', add column sender text, add column subject text;
    create index on mail_source (received_at desc);
    create index on mail_aside (at desc, source_id);
    create index mail_aside_waiting on mail_aside (at desc) where ended_at is null;
  `);
}

export async function down(knex: Knex): Promise<void> {
  await knex.raw(`
    drop table mail_aside, mail_rule;
    alter table ticket drop column look_is;
    alter table invoice_standing drop column undelivered_at;
    alter table mail_source drop column headers, drop column sender, drop column subject;
    alter table contact drop column mail_trouble, drop column mail_trouble_at;
    alter table message drop column notice, drop column left_out, drop column deliveries, drop column undelivered_at;
  `);
}
