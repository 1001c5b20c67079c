// Writes packages/server/src/app/rows.ts: what the migrated schema says of every table's columns.
import { readFileSync, writeFileSync } from 'node:fs';
import type { Knex } from 'knex';
import { format, resolveConfig } from 'prettier';

const FILE = 'packages/server/src/app/rows.ts';

/** How the driver hands each type over, as `database.ts` sets it up. */
const TYPES: Readonly<Record<string, string>> = {
  bool: 'boolean',
  bytea: 'Buffer',
  date: 'LocalDate',
  daterange: 'string',
  int4: 'number',
  int8: 'number',
  json: 'unknown',
  jsonb: 'unknown',
  numeric: 'string',
  text: 'string',
  timestamp: 'Instant',
  timestamptz: 'Instant',
  tsvector: 'string',
  uuid: 'string',
  varchar: 'string',
  xid8: 'string',
  _int4: 'readonly number[]',
  _text: 'readonly string[]',
  _uuid: 'readonly string[]',
};

/** What stands in the columns that PostgreSQL knows as JSON alone: the type, and where it is from. */
const CURRENCY = ['Currency', '@core/ground'] as const;
const FIELDS = ['Readonly<Record<string, FactValue>>', '@core/ground', 'FactValue'] as const;
const KIND = ["Kind | 'unsorted'", '@core/desk'] as const;
const SHAPES: Readonly<Record<string, readonly [type: string, from?: string, name?: string]>> = {
  'asset.fields': FIELDS,
  'client.fields': FIELDS,
  'contact.fields': FIELDS,
  'ticket.fields': FIELDS,
  'activity.pricing': ['Pricing', '@core/time'],
  'activity.rounding': ['Rounding', '@core/time'],
  'absence.days': ['Readonly<Record<LocalDate, number>>'],
  'bank_line.currency': CURRENCY,
  'bank_statement.currency': CURRENCY,
  'billing_run.state': ['RunState', '@core/billing'],
  'billing_run_invoice.currency': CURRENCY,
  'billing_run_invoice.part': ['InvoicePart', '@core/billing'],
  'client_billing_terms.billed_every': ['BilledEvery', '@core/billing'],
  'client_billing_terms.per': ['InvoicePer', '@core/billing'],
  'house_billing_terms.billed_every': ['BilledEvery', '@core/billing'],
  'house_billing_terms.per': ['InvoicePer', '@core/billing'],
  'billing_run_invoice.reasons': ['readonly RunReason[]', '@core/billing', 'RunReason'],
  'booking.state': ["'planned' | 'underway' | 'done' | 'cancelled'"],
  'catalogue_item.currency': CURRENCY,
  'catalogue_item.tax_category': ['TaxCategory', '@core/goods'],
  'charge.currency': CURRENCY,
  'contract_settings.reach_order': ['readonly Reach[]', '@core/contracts', 'Reach'],
  'contract_closed.draws': ['readonly DrawOnDay[]', '@core/contracts', 'DrawOnDay'],
  'contract_closed.capped': ['readonly CappedOnDay[]', '@core/contracts', 'CappedOnDay'],
  'contract_price.tiers': ['readonly Tier[]', '@core/contracts', 'Tier'],
  'contract_cover.bands': ['readonly TimeBand[]', '@core/ground', 'TimeBand'],
  'charge.kind': ["ChargeWire['kind']", '@core/billing'],
  'charge.odd': ['readonly ChargeMark[]', '@core/billing', 'ChargeMark'],
  'charge.oddities': ['readonly Oddity[]', '@core/billing', 'Oddity'],
  'approval_rule.kind': ['ChargeKind', '@core/billing'],
  'charge.standing': ['ChargeStanding', '@core/billing'],
  'charge.unit': ['ChargeUnit', '@core/billing'],
  'charge.tax_category': ['TaxCategory', '@core/goods'],
  'charge.explanation': ['Explanation', '@core/ground'],
  'division.labour_tax': ['Tax', '@core/goods'],
  'entry_effect.effect': ['EntryEffect', '@core/time'],
  'expense.currency': CURRENCY,
  'provider.currency': CURRENCY,
  'provider.seller': ['Seller', '@core/billing'],
  'ticket_settings.priority_matrix': ['PriorityMatrix', '@core/desk'],
  'ticket_settings.closing_rules': ["ClosingBook['rules']", '@core/desk'],
  'ticket_settings.always_asked': ['readonly ClosingCheck[]', '@core/desk'],
  'time_settings.band_pricing': ['BandPricing', '@core/time'],
  'time_settings.labour_tax': ['Tax', '@core/goods'],
  'invoice.buyer': ['Party', '@core/billing'],
  'invoice.currency': CURRENCY,
  'invoice.kind': ['DocumentKind', '@core/billing'],
  'invoice.seller': ['Seller', '@core/billing'],
  'mail_source.headers': ['Readonly<Record<string, string>>'],
  'invoice_line.tax_category': ['TaxCategory', '@core/goods'],
  'invoice_line.unit': ['ChargeUnit', '@core/billing'],
  'invoice_tax.tax_category': ['TaxCategory', '@core/goods'],
  'ticket_template.kind': ["MailRuleForm['kind']", '@core/desk'],
  'ticket_template.impact': ["MailRuleForm['impact']", '@core/desk'],
  'ticket_template.urgency': ["MailRuleForm['urgency']", '@core/desk'],
  'ticket_template.line': ["MailRuleForm['line']", '@core/desk'],
  'ticket.look_is': ['Look', '@core/desk'],
  'request_form.kind': ["RequestFormForm['kind']", '@core/desk'],
  'own_kind.stands_for': ["OwnKindForm['standsFor']", '@core/desk'],
  'calendar.written': ['WrittenCalendar', '@core/ground'],
  'outbox.payload': ['{ readonly by?: string }'],
  'mail_rule.impact': ["MailRuleForm['impact']", '@core/desk'],
  'mail_rule.kind': ["MailRuleForm['kind']", '@core/desk'],
  'mail_rule.line': ["MailRuleForm['line']", '@core/desk'],
  'mail_rule.urgency': ["MailRuleForm['urgency']", '@core/desk'],
  'message.call_outcome': ['CallOutcome', '@core/desk'],
  'message.notice': ["MessageWire['notice']", '@core/desk'],
  'message.left_out': ["MessageWire['leftOut']", '@core/desk'],
  'payment.currency': CURRENCY,
  'allocation.currency': CURRENCY,
  'ticket.hold_reason': ['HoldReason', '@core/desk'],
  'ticket.impact': ['Impact', '@core/desk'],
  'ticket.kind': KIND,
  'ticket.outcome': ['TicketOutcome', '@core/desk'],
  'ticket.priority': ['Priority', '@core/desk'],
  'ticket.status': ['Status', '@core/desk'],
  'ticket.urgency': ['Urgency', '@core/desk'],
  'work_facts.kind': ["Rows['work']['kind']"],
  'work_facts.priority': ['Priority', '@core/desk'],
  'work_facts.ticket_kind': KIND,
  'booking.work_kind': ["Rows['work']['kind']"],
  'time_entry.work_kind': ["Rows['work']['kind']"],
  'expense.work_kind': ["Rows['work']['kind']"],
  'checklist_item.work_kind': ["Rows['work']['kind']"],
  'timer.work_kind': ["Rows['work']['kind']"],
  'person.role': ['AccessRole', '@core/ground'],
  'rate_rule.band': ['TimeBand', '@core/ground'],
};

/** Columns of views that are never null, which PostgreSQL does not know. */
const NEVER_NULL = new Set(['charge.standing', 'work_facts.id', 'work_facts.kind', 'work_facts.subject']);

/** Whose id a column is that refers to no table by a constraint: of views, of the log, and of what is not there any more. */
const REFERS: Readonly<Record<string, string>> = {
  assignee_id: 'person',
  category_id: 'category',
  charge_id: 'charge',
  client_id: 'client',
  contact_id: 'contact',
  desk_id: 'desk',
  division_id: 'division',
  for_contact_id: 'contact',
  invoice_id: 'invoice',
  person_id: 'person',
  site_id: 'site',
  ticket_id: 'ticket',
  work_id: 'work',
  'event.cause_id': 'event',
  'provider.calendar_id': 'calendar',
  'provider.promise_version_id': 'promise_version',
  'work_facts.id': 'work',
};

interface Column {
  readonly table: string;
  readonly column: string;
  readonly type: string;
  readonly nullable: boolean;
}

/** The table that a column refers to by a constraint, or whose own id it is. */
async function readReferred(knex: Knex): Promise<ReadonlyMap<string, string>> {
  const { rows } = await knex.raw(`
    select c.relname || '.' || a.attname as column, f.relname as refers
    from pg_constraint k join pg_class c on c.oid = k.conrelid join pg_class f on f.oid = k.confrelid
      join pg_attribute a on a.attrelid = c.oid and k.conkey = array[a.attnum]
    where k.contype = 'f' and c.relnamespace = 'public'::regnamespace and f.relkind in ('r', 'p')`);
  return new Map((rows as { column: string; refers: string }[]).map((row) => [row.column, row.refers]));
}

/** The columns that a check lets be some words alone. */
async function readWords(knex: Knex): Promise<ReadonlyMap<string, readonly string[]>> {
  const { rows } = await knex.raw(`
    select c.relname as table, a.attname as column, pg_get_constraintdef(k.oid) as says
    from pg_constraint k join pg_class c on c.oid = k.conrelid join pg_attribute a on a.attrelid = c.oid and k.conkey = array[a.attnum]
    where k.contype = 'c' and c.relnamespace = 'public'::regnamespace order by k.conname`);
  const words = new Map<string, readonly string[]>();
  for (const { table, column, says } of rows as { table: string; column: string; says: string }[]) {
    const one = /^CHECK \(\((?:\(?\w+ IS NULL\)? OR \()?\(?"?\w+"? = ANY \((?:\()?ARRAY\[([^\]]+)\]/.exec(says);
    if (one)
      words.set(
        `${table}.${column}`,
        [...one[1]!.matchAll(/'((?:[^']|'')*)'::/g)].map((m) => m[1]!.replaceAll("''", "'")),
      );
  }
  return words;
}

async function readColumns(knex: Knex): Promise<readonly Column[]> {
  const { rows } = await knex.raw(`
    select table_name as table, column_name as column, udt_name as type, is_nullable = 'YES' as nullable
    from information_schema.columns where table_schema = 'public' and table_name not like 'knex\\_%'
    order by table_name collate "C", ordinal_position`);
  return rows;
}

/** The text of the file for the schema of this database. */
export async function rowsOf(knex: Knex): Promise<string> {
  const words = await readWords(knex);
  const referred = await readReferred(knex);
  const idOf = ({ table, column }: Column): string | undefined => {
    const of = REFERS[`${table}.${column}`] ?? (column === 'id' ? table : (referred.get(`${table}.${column}`) ?? REFERS[column]));
    return of && `Id<'${of}'>`;
  };
  const tables = new Map<string, string[]>();
  const imports = new Map<string, Set<string>>([['@core/ground', new Set(['Id', 'Instant', 'LocalDate'])]]);
  for (const each of await readColumns(knex)) {
    const { table, column, type, nullable } = each;
    const [shape, from, name] = SHAPES[`${table}.${column}`] ?? [];
    if (shape && from) imports.set(from, (imports.get(from) ?? new Set()).add(name ?? /\w+/.exec(shape.replace('readonly ', ''))![0]));
    const plain = TYPES[type];
    if (!plain) throw new Error(`${table}.${column} is of type ${type}, of which scripts/make-rows.ts knows nothing`);
    const is =
      shape ??
      words
        .get(`${table}.${column}`)
        ?.map((w) => `'${w.replaceAll("'", "\\'")}'`)
        .join(' | ') ??
      (type === 'uuid' ? idOf(each) : undefined) ??
      plain;
    const maybe = nullable && is !== 'unknown' && !NEVER_NULL.has(`${table}.${column}`);
    tables.set(table, [...(tables.get(table) ?? []), `    ${column}: ${is}${maybe ? ' | null' : ''};`]);
  }
  const text = [
    '// Made by `npm run rows` from the migrated schema; not written by hand. A test run fails where it is not current.',
    ...[...imports].sort().map(([from, names]) => `import type { ${[...names].sort().join(', ')} } from '${from}';`),
    '',
    '/** The columns of each table and view, as the driver hands them over. */',
    'export interface Rows {',
    ...[...tables].map(([table, columns]) => `  ${table}: {\n${columns.join('\n')}\n  };`),
    '}',
    '',
    '/** A row of a table, or some of its columns. */',
    'export type Row<Table extends keyof Rows, Column extends keyof Rows[Table] = keyof Rows[Table]> = Readonly<Pick<Rows[Table], Column>>;',
    '',
    '/** Columns of a table that is joined where it has such a row: each may be null. */',
    'export type Joined<Table extends keyof Rows, Column extends keyof Rows[Table]> = {',
    '  readonly [C in Column]: Rows[Table][C] | null;',
    '};',
    '',
  ].join('\n');
  return format(text, { ...(await resolveConfig(FILE)), filepath: FILE });
}

export async function writeRows(knex: Knex): Promise<void> {
  writeFileSync(FILE, await rowsOf(knex));
}

/** @throws Error where the file says another thing than the schema */
export async function refuseStaleRows(knex: Knex): Promise<void> {
  if (readFileSync(FILE, 'utf8') !== (await rowsOf(knex))) throw new Error(`${FILE} is not what the schema says: npm run rows`);
}
