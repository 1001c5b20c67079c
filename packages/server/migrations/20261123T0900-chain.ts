import type { Knex } from 'knex';

/** The whole chain from mail to money. Columns named division_id are there from the first day. */
export async function up(knex: Knex): Promise<void> {
  await knex.raw(SCHEMA);
}

export async function down(knex: Knex): Promise<void> {
  await knex.raw('drop schema public cascade; create schema public');
}

const SCHEMA = `
create extension if not exists pg_trgm;

-- An id that rises with the time it was made, to a microsecond (RFC 9562, version 7, with the fraction of the millisecond).
create function time_ordered_id() returns uuid language sql volatile as $$
  select (lpad(to_hex(us / 1000), 12, '0') || '7' || lpad(to_hex(us % 1000 * 4096 / 1000), 3, '0') || right(replace(gen_random_uuid()::text, '-', ''), 16))::uuid
    from (select floor(extract(epoch from clock_timestamp()) * 1000000)::bigint as us) made
$$;
create table division (id uuid primary key default gen_random_uuid(), name text not null unique);

-- One row: what holds for the whole provider.
create table house (
  id int primary key default 1 check (id = 1),
  provider text not null, zone text not null, currency text not null,
  seller jsonb not null, calendar_id uuid, promise_version_id uuid,
  mail_from text not null, priority_matrix jsonb not null, band_pricing jsonb not null,
  clock_offset_seconds bigint not null default 0, is_demo boolean not null default false
);

create table grade (id uuid primary key default gen_random_uuid(), name text not null unique, position int not null);
create table team (id uuid primary key default gen_random_uuid(), name text not null unique, position int not null);
create table desk (id uuid primary key default gen_random_uuid(), division_id uuid not null references division, name text not null unique, letter text not null unique, team_id uuid references team, position int not null);

create table person (
  id uuid primary key default gen_random_uuid(), name text not null, email text not null unique, password_hash text not null,
  role text not null, grade_id uuid references grade, team_id uuid references team, technician boolean not null default false,
  active boolean not null default true, created_at timestamptz not null
);
create table person_hours (person_id uuid primary key references person, week jsonb not null);
create table time_off (id uuid primary key default gen_random_uuid(), person_id uuid not null references person, starts_at timestamptz not null, ends_at timestamptz not null, reason text not null, check (starts_at < ends_at));
create index on time_off (person_id, starts_at);

create table session (sid varchar primary key, sess json not null, expire timestamp(6) not null);
create index on session (expire);
create table api_token (id uuid primary key default gen_random_uuid(), person_id uuid not null references person, label text not null, token_hash bytea not null unique, created_at timestamptz not null, last_used_at timestamptz, revoked_at timestamptz);
create table sign_in (id bigserial primary key, at timestamptz not null, email text not null, person_id uuid references person, way text not null, ok boolean not null, address text);

create table calendar (id uuid primary key default gen_random_uuid(), name text not null unique, written jsonb not null);
create table promise (id uuid primary key default gen_random_uuid(), name text not null unique);
create table promise_version (id uuid primary key default gen_random_uuid(), promise_id uuid not null references promise, version int not null, targets jsonb not null, created_at timestamptz not null, unique (promise_id, version));

create table client (
  id uuid primary key default gen_random_uuid(), division_id uuid not null references division, number int not null unique, name text not null,
  domains text[] not null default '{}', zone text not null, calendar_id uuid references calendar, promise_id uuid references promise,
  street text not null, city text not null, postcode text not null, country text not null, tax_number text, tax_exempt boolean not null default false,
  invoice_email text not null, payment_days int not null, since date not null, archived_at timestamptz, version int not null default 1
);
create sequence client_number start 101;
create index on client using gin (domains);
create index on client using gin (name gin_trgm_ops);
create table site (id uuid primary key default gen_random_uuid(), client_id uuid not null references client, name text not null, street text not null, city text not null, postcode text not null, latitude numeric(8,5), longitude numeric(8,5), unique (client_id, id));
create table contact (
  id uuid primary key default gen_random_uuid(), client_id uuid not null references client, site_id uuid, name text not null, email text not null, phone text, title text,
  priority boolean not null default false, placeholder boolean not null default false, archived_at timestamptz, version int not null default 1,
  foreign key (client_id, site_id) references site (client_id, id), unique (client_id, id)
);
create unique index contact_email on contact (lower(email)) where archived_at is null;
create index on contact using gin (name gin_trgm_ops);
create index on contact (client_id);
create table asset (
  id uuid primary key default gen_random_uuid(), client_id uuid not null references client, site_id uuid, contact_id uuid, number text not null unique, name text not null, make text,
  archived_at timestamptz, version int not null default 1,
  foreign key (client_id, site_id) references site (client_id, id), foreign key (client_id, contact_id) references contact (client_id, id)
);
create index on asset (client_id);
create index on asset using gin ((number || ' ' || name) gin_trgm_ops);

create table activity (id uuid primary key default gen_random_uuid(), name text not null unique, rounding jsonb not null, pricing jsonb not null, call_out_fee numeric(14,4), position int not null);
create table rate_rule (
  id uuid primary key default gen_random_uuid(), level text not null check (level in ('contract','client','default')), client_id uuid references client,
  grade_id uuid references grade, activity_id uuid references activity, band text, rate numeric(14,4) not null, valid_from date not null, valid_to date,
  check ((level = 'default') = (client_id is null))
);
create index on rate_rule (client_id);

create table catalogue_item (
  id uuid primary key default gen_random_uuid(), number text not null unique, name text not null, category text not null, price numeric(14,4) not null, basis text not null check (basis in ('net','gross')),
  cost numeric(14,4) not null, currency text not null, tax_category text not null, tax_percent numeric(6,3) not null, archived_at timestamptz, version int not null default 1
);

create sequence ticket_number start 4001;
create table ticket (
  id uuid primary key default gen_random_uuid(), division_id uuid not null references division, number int not null unique, secret text not null,
  subject text not null, kind text not null, status text not null, hold_reason text, outcome text, impact text, urgency text, priority text,
  client_id uuid references client, contact_id uuid references contact, asset_id uuid references asset, desk_id uuid references desk, assignee_id uuid references person,
  sender_email text, sender_name text, threading_why jsonb, linked_ticket_id uuid references ticket, promise_version_id uuid not null references promise_version,
  estimate_minutes int, received_at timestamptz not null, changed_at timestamptz not null, resolved_at timestamptz, closed_at timestamptz,
  reply_owed_since timestamptz, due_at timestamptz, version int not null default 1,
  search tsvector generated always as (setweight(to_tsvector('english', subject), 'A')) stored
);
create index ticket_open_due on ticket ((coalesce(due_at, 'infinity'::timestamptz)), id) where status not in ('resolved','closed');
create index ticket_unsorted on ticket (received_at, id) where kind = 'unsorted' and status <> 'closed';
create index on ticket (desk_id, status);
create index on ticket (asset_id) where asset_id is not null;
create index on ticket (assignee_id, status);
create index on ticket (client_id, status);
create index on ticket (changed_at desc, id);
create index on ticket (received_at desc, id);
create index on ticket (reply_owed_since) where reply_owed_since is not null;
create index on ticket using gin (search);

-- What happened, as far as clocks care; append-only, read in order of at.
create table ticket_fact (id bigserial primary key, ticket_id uuid not null references ticket, at timestamptz not null, fact text not null, detail jsonb not null default '{}', written_at timestamptz not null);
create index on ticket_fact (ticket_id, at, id);
-- Derived from the facts in the same transaction; a check rebuilds it.
create table ticket_clock (
  ticket_id uuid not null references ticket, clock text not null, state text not null, due_at timestamptz, missed_at timestamptz, ended_at timestamptz,
  elapsed_seconds bigint not null, target_seconds bigint not null, primary key (ticket_id, clock)
);
create index ticket_clock_due on ticket_clock (due_at) where due_at is not null;

create table mail_source (id uuid primary key default gen_random_uuid(), sha256 bytea not null unique, message_id text, received_at timestamptz not null, envelope_from text not null, envelope_to text[] not null, raw bytea not null, decision jsonb not null);
create table message (
  id uuid primary key default time_ordered_id(), ticket_id uuid not null references ticket, at timestamptz not null,
  direction text not null check (direction in ('in','out','note')), visibility text not null check (visibility in ('public','inside')),
  author_person_id uuid references person, author_contact_id uuid references contact, author_name text not null, author_email text,
  to_addresses text[] not null default '{}', cc_addresses text[] not null default '{}', subject text not null default '', text text not null, html text,
  message_id text, in_reply_to text, reference_ids text[] not null default '{}', automatic boolean not null default false, via text not null default 'mail',
  -- Leaving since: a mail server has it in its hands, so that it is not taken back and not sent by another at the same time.
  source_id uuid references mail_source, leaves_at timestamptz, leaving_since timestamptz, left_at timestamptz, taken_back_at timestamptz, trouble text,
  check (visibility = 'inside' or direction <> 'note')
);
create index on message (ticket_id, at);
create index on message (message_id);
create index on message (author_person_id, at) where author_person_id is not null;
create table attachment (id uuid primary key default gen_random_uuid(), message_id uuid not null references message, name text not null, media_type text not null, bytes int not null, content_id text, blob text not null);
create index on attachment (message_id);

create table checklist_item (id uuid primary key default gen_random_uuid(), ticket_id uuid not null references ticket, position int not null, text text not null, answer text, owner_id uuid references person, due_on date);
create index on checklist_item (ticket_id);

create table booking (
  id uuid primary key default gen_random_uuid(), ticket_id uuid not null references ticket, person_id uuid references person, starts_at timestamptz not null, ends_at timestamptz not null,
  planned_starts_at timestamptz not null, planned_ends_at timestamptz not null, state text not null default 'planned', travel_minutes int not null default 0, version int not null default 1,
  check (starts_at < ends_at)
);
create index on booking (person_id, starts_at) where state <> 'cancelled';
create index on booking (ticket_id);
create index on booking (starts_at);

create table timer (id uuid primary key default gen_random_uuid(), person_id uuid not null references person, ticket_id uuid not null references ticket, started_at timestamptz not null, running_since timestamptz, counted_seconds int not null default 0, unique (person_id, ticket_id));
create unique index timer_one_running on timer (person_id) where running_since is not null;
create table time_entry (
  id uuid primary key default time_ordered_id(), person_id uuid not null references person, ticket_id uuid references ticket, client_id uuid references client, starts_at timestamptz not null, ends_at timestamptz not null,
  minutes int not null check (minutes > 0), grade_id uuid not null references grade, activity_id uuid not null references activity, note text, billable boolean not null, reason text,
  removed_at timestamptz, version int not null default 1
);
create index on time_entry (person_id, starts_at);
create index on time_entry (ticket_id);
create index on time_entry (client_id, starts_at);
-- What each entry does, as it was rated last: derived, and there for each entry when its transaction ends.
create table entry_effect (time_entry_id uuid primary key references time_entry on delete cascade, effect jsonb not null);
create function need_effect() returns trigger language plpgsql as $$ begin
  if not exists (select 1 from entry_effect where time_entry_id = new.id) then raise exception 'time entry % was never rated', new.id; end if;
  return null; end $$;
create constraint trigger need_effect after insert on time_entry deferrable initially deferred for each row execute function need_effect();

-- Money. A charge is proposed and decided on; what documents bill of it is the sum of links, never a state. Decisions,
-- documents, links, payments and allocations are append-only.
create table charge (
  id uuid primary key default gen_random_uuid(), division_id uuid not null references division, client_id uuid not null references client, ticket_id uuid references ticket, time_entry_id uuid references time_entry,
  item_id uuid references catalogue_item, person_id uuid references person, kind text not null, state text not null default 'proposed' check (state in ('proposed','approved','waived','withdrawn')), on_date date not null, description text not null,
  quantity numeric(14,4) not null, unit text not null, unit_price numeric(22,12) not null, net_minor bigint not null, currency text not null, tax_category text not null, tax_percent numeric(6,3) not null,
  explanation jsonb not null, odd text[] not null default '{}', version int not null default 1,
  -- What it comes from; a cause and part exist once.
  cause text not null check (cause in ('entry','distance','call-out','share','expense','fee','item','recurring','milestone','by hand')), part int not null default 0,
  -- What it costs the provider, and whom it is for; contracts and projects fill the rest.
  cost_minor bigint, for_contact_id uuid, contract_id uuid, project_id uuid, period daterange,
  -- The sum of what documents bill of it; null where none does. Derived from billing_link by its trigger.
  billed_minor bigint, check (billed_minor is null or state = 'approved'),
  -- As core's standingOf says it, for lists; a spec holds both to each other.
  standing text not null generated always as (case when state <> 'approved' or billed_minor is null then state when billed_minor = net_minor then 'billed' else 'part billed' end) stored
);
create index on charge (standing, client_id);
create index on charge (ticket_id);
create index on charge (time_entry_id);
create table charge_decision (id bigserial primary key, charge_id uuid not null, at timestamptz not null, who text not null check (who in ('person','contact','job','rule','system','nobody')), who_id uuid, who_name text not null, decision text not null, reason text, was jsonb not null, batch_id uuid);
create index on charge_decision (charge_id, id);
create index on charge_decision (batch_id) where batch_id is not null;
create table invoice_series (id uuid primary key default gen_random_uuid(), division_id uuid not null references division, kind text not null default 'invoice' check (kind in ('invoice','credit note','receipt')), prefix text not null unique, last_number int not null default 0);
-- A document: an invoice, a credit note or a receipt. Amounts of a credit note are what it gives.
create table invoice (
  id uuid primary key default gen_random_uuid(), kind text not null default 'invoice' check (kind in ('invoice','credit note','receipt')),
  division_id uuid not null references division, series_id uuid not null references invoice_series, sequence int not null, number text not null unique, client_id uuid not null references client,
  issued_at timestamptz not null, issued_on date not null, due_on date not null, currency text not null, seller jsonb not null, buyer jsonb not null,
  net_minor bigint not null, tax_minor bigint not null, gross_minor bigint not null, issued_by uuid references person,
  -- Of a credit note by hand: what it corrects and why, and whether the billing is undone or the money given back for good.
  corrects_id uuid references invoice, reason text, undoes boolean,
  unique (series_id, sequence), check (gross_minor = net_minor + tax_minor),
  check (kind = 'credit note' or corrects_id is null), check ((corrects_id is null) = (undoes is null))
);
create index on invoice (client_id, issued_on);
create index on invoice (issued_on desc, number desc);
create index on invoice (corrects_id) where corrects_id is not null;
create table invoice_line (
  invoice_id uuid not null references invoice, position int not null, description text not null, quantity numeric(14,4) not null, unit text not null, unit_price numeric(22,12) not null,
  net_minor bigint not null, tax_category text not null, tax_percent numeric(6,3) not null,
  -- Of a credit note: the line of the invoice that it corrects.
  corrects_position int, primary key (invoice_id, position)
);
-- What a line bills, and of a credit note what it undoes or gives back for good; signed as the charge is.
create table billing_link (
  id bigint generated always as identity primary key, invoice_id uuid not null, position int not null, foreign key (invoice_id, position) references invoice_line,
  charge_id uuid references charge, contract_line_id uuid, period daterange,
  does text not null check (does in ('bill','undo','give back')), net_minor bigint not null, check (num_nonnulls(charge_id, contract_line_id) = 1)
);
create index on billing_link (charge_id);
create index on billing_link (invoice_id, position);
create table invoice_tax (invoice_id uuid not null references invoice, tax_category text not null, tax_percent numeric(6,3) not null, base_minor bigint not null, tax_minor bigint not null, primary key (invoice_id, tax_category, tax_percent));
create table invoice_document (invoice_id uuid not null references invoice, format text not null, bytes bytea not null, made_at timestamptz not null, primary key (invoice_id, format));
-- Money received. Whose it is may not be known yet; what is not allocated is the client's credit.
create table payment (
  id uuid primary key default gen_random_uuid(), client_id uuid references client, at timestamptz not null, received_on date not null, amount_minor bigint not null check (amount_minor > 0), currency text not null,
  source text not null check (source in ('ledger','by hand')), external_id text unique, reference text not null
);
create index on payment (client_id, received_on);
-- What a payment or a credit note settles of an invoice; taken back by another with the opposite sign.
create table allocation (
  id uuid primary key default time_ordered_id(), invoice_id uuid not null references invoice, payment_id uuid references payment, credit_note_id uuid references invoice,
  amount_minor bigint not null check (amount_minor <> 0), at timestamptz not null, takes_back_id uuid unique references allocation, check (num_nonnulls(payment_id, credit_note_id) = 1)
);
create index on allocation (invoice_id);
create index on allocation (payment_id) where payment_id is not null;
create index on allocation (credit_note_id) where credit_note_id is not null;
-- What became of a document: settled is derived from allocation by its trigger. It is what was paid or credited
-- of an invoice, and of a credit note what was used.
create table invoice_standing (invoice_id uuid primary key references invoice, settled_minor bigint not null default 0, mailed_at timestamptz, ledger_at timestamptz, ledger_id text);
create table ledger_cursor (id int primary key default 1 check (id = 1), after bigint not null default 0);
insert into ledger_cursor default values;

-- What happened, for good: the story of every record is read from it, and who follows it keeps the place (xact, id) read up to.
-- An id rises with the time it was written; xact says which rows of transactions that are over stand before one's place.
create table event (
  id uuid primary key default time_ordered_id(), xact xid8 not null default pg_current_xact_id(),
  type text not null, version int not null, data jsonb not null, subject text not null, subject_id uuid not null,
  ticket_id uuid, client_id uuid, contract_id uuid, project_id uuid, division_id uuid,
  happened_at timestamptz not null, written_at timestamptz not null default clock_timestamp(),
  who text not null check (who in ('person','contact','job','rule','system','nobody')), who_id uuid, who_name text not null,
  via text not null check (via in ('web','api','mail','page','job','system')), cause_id uuid,
  check (who not in ('person','rule') or who_id is not null)
);
create index on event (subject, subject_id, id);
create index on event (ticket_id, id) where ticket_id is not null;
create index on event (who_id, happened_at) where who_id is not null;
create index on event (xact, id);
-- seq is given by the relay in order of commit; clients catch up by it.
create table outbox (id bigserial primary key, seq bigint unique, topic text not null, subject_id uuid, payload jsonb not null, at timestamptz not null);
create index outbox_unsent on outbox (id) where seq is null;
create table outbox_position (id int primary key default 1 check (id = 1), last_seq bigint not null default 0);
insert into outbox_position default values;
create table idempotency_key (actor text not null, key text not null, request_hash text not null, status int, answer jsonb, at timestamptz not null default now(), primary key (actor, key));

create function refuse_change() returns trigger language plpgsql as $$ begin raise exception '% is append-only', tg_table_name; end $$;
create trigger only_append before update or delete on ticket_fact for each row execute function refuse_change();
create trigger only_append before update or delete on event for each row execute function refuse_change();
create trigger only_append before update or delete on charge_decision for each row execute function refuse_change();
create trigger only_append before update or delete on invoice for each row execute function refuse_change();
create trigger only_append before update or delete on invoice_line for each row execute function refuse_change();
create trigger only_append before update or delete on invoice_tax for each row execute function refuse_change();
-- Of a payment only whose it is may still become known.
create function keep_payment() returns trigger language plpgsql as $$ begin
  if tg_op = 'DELETE' or old.client_id is not null or to_jsonb(new) - 'client_id' is distinct from to_jsonb(old) - 'client_id' then raise exception 'payment is append-only'; end if;
  return new; end $$;
create trigger only_append before update or delete on payment for each row execute function keep_payment();
create trigger only_append before update or delete on mail_source for each row execute function refuse_change();
create trigger only_append before update or delete on billing_link for each row execute function refuse_change();
create trigger only_append before update or delete on allocation for each row execute function refuse_change();
create function keep_billed() returns trigger language plpgsql as $$ begin
  if old.billed_minor is not null and (tg_op = 'DELETE' or to_jsonb(new) - '{billed_minor,standing,cause_id}'::text[] is distinct from to_jsonb(old) - '{billed_minor,standing,cause_id}'::text[]) then raise exception 'a billed charge never changes'; end if;
  return coalesce(new, old); end $$;
create trigger keep_billed before update or delete on charge for each row execute function keep_billed();
create function count_billed() returns trigger language plpgsql as $$ begin
  if new.charge_id is not null and new.does <> 'give back' then
    update charge set billed_minor = case when new.does = 'undo' and coalesce(billed_minor, 0) + new.net_minor = 0 then null else coalesce(billed_minor, 0) + new.net_minor end where id = new.charge_id;
  end if;
  return null; end $$;
create trigger count_billed after insert on billing_link for each row execute function count_billed();
create function count_settled() returns trigger language plpgsql as $$ begin
  update invoice_standing set settled_minor = settled_minor + new.amount_minor where invoice_id in (new.invoice_id, new.credit_note_id);
  return null; end $$;
create trigger count_settled after insert on allocation for each row execute function count_settled();
`;
