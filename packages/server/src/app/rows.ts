// Made by `npm run rows` from the migrated schema; not written by hand. A test run fails where it is not current.
import type {
  BilledEvery,
  ChargeKind,
  ChargeMark,
  ChargeStanding,
  ChargeUnit,
  ChargeWire,
  DocumentKind,
  InvoicePart,
  InvoicePer,
  Oddity,
  Party,
  RunReason,
  RunState,
  Seller,
} from '@core/billing';
import type { CappedOnDay, DrawOnDay, Reach, Tier } from '@core/contracts';
import type {
  CallOutcome,
  ClosingBook,
  ClosingCheck,
  HoldReason,
  Impact,
  Kind,
  Look,
  MailRuleForm,
  MessageWire,
  OwnKindForm,
  Priority,
  PriorityMatrix,
  RequestFormForm,
  Status,
  TicketOutcome,
  Urgency,
} from '@core/desk';
import type { Tax, TaxCategory } from '@core/goods';
import type { AccessRole, Currency, Explanation, FactValue, Id, Instant, LocalDate, TimeBand, WrittenCalendar } from '@core/ground';
import type { BandPricing, EntryEffect, Pricing, Rounding } from '@core/time';

/** The columns of each table and view, as the driver hands them over. */
export interface Rows {
  absence: {
    id: Id<'absence'>;
    person_id: Id<'person'>;
    kind_id: Id<'absence_kind'>;
    from_day: LocalDate;
    to_day: LocalDate;
    from_middle: boolean;
    to_middle: boolean;
    starts_at: Instant;
    ends_at: Instant;
    days: Readonly<Record<LocalDate, number>>;
    note: string | null;
    state: 'requested' | 'approved' | 'refused' | 'withdrawn';
    requested_at: Instant;
    decided_by: Id<'person'> | null;
    decided_at: Instant | null;
    remark: string | null;
    version: number;
  };
  absence_grant: {
    person_id: Id<'person'>;
    kind_id: Id<'absence_kind'>;
    year: number;
    halves: number;
  };
  absence_kind: {
    id: Id<'absence_kind'>;
    name: string;
    has_balance: boolean;
    year_halves: number;
    carry_halves: number;
    carry_until: string;
    position: number;
    archived_at: Instant | null;
    version: number;
  };
  activity: {
    id: Id<'activity'>;
    name: string;
    rounding: Rounding;
    pricing: Pricing;
    call_out_fee: string | null;
    position: number;
    visit: boolean;
    travel: boolean;
  };
  allocation: {
    id: Id<'allocation'>;
    invoice_id: Id<'invoice'>;
    payment_id: Id<'payment'> | null;
    credit_note_id: Id<'invoice'> | null;
    amount_minor: number;
    at: Instant;
    takes_back_id: Id<'allocation'> | null;
  };
  allowance_warning: {
    allowance_id: Id<'contract_allowance'>;
    period_from: LocalDate;
    level: number;
    told_at: Instant;
  };
  api_token: {
    id: Id<'api_token'>;
    person_id: Id<'person'>;
    label: string;
    token_hash: Buffer;
    created_at: Instant;
    last_used_at: Instant | null;
    revoked_at: Instant | null;
  };
  approval_rule: {
    id: Id<'approval_rule'>;
    version: number;
    client_id: Id<'client'> | null;
    kind: ChargeKind;
    after_days: number | null;
    archived_at: Instant | null;
  };
  asset: {
    id: Id<'asset'>;
    client_id: Id<'client'>;
    site_id: Id<'site'> | null;
    contact_id: Id<'contact'> | null;
    number: string;
    name: string;
    make: string | null;
    archived_at: Instant | null;
    version: number;
    since: Instant | null;
    fields: Readonly<Record<string, FactValue>>;
  };
  attachment: {
    id: Id<'attachment'>;
    message_id: Id<'message'>;
    name: string;
    media_type: string;
    bytes: number;
    content_id: string | null;
    blob: string;
  };
  back_answer: {
    id: number;
    update_id: Id<'member_update'>;
    ticket_id: Id<'ticket'>;
    at: Instant;
    back: boolean;
  };
  bank_line: {
    id: Id<'bank_line'>;
    statement_id: Id<'bank_statement'>;
    position: number;
    key: string;
    place: string;
    bank_id: string | null;
    booked_on: LocalDate;
    amount_minor: number;
    currency: Currency;
    payer: string;
    payer_account: string;
    text: string;
    state: 'open' | 'matched' | 'left out' | 'went out';
    payment_id: Id<'payment'> | null;
    reason: string | null;
  };
  bank_statement: {
    id: Id<'bank_statement'>;
    name: string;
    account: string;
    currency: Currency;
    opening_minor: number | null;
    closing_minor: number | null;
    file_name: string;
    blob: string | null;
    bytes: number;
    lines: number;
    known: number;
    announced: number;
    read_at: Instant;
    who: string;
    who_id: string | null;
    who_name: string;
  };
  billing_link: {
    id: number;
    invoice_id: Id<'invoice'>;
    position: number;
    charge_id: Id<'charge'> | null;
    contract_line_id: Id<'contract_line'> | null;
    period: string | null;
    does: 'bill' | 'undo' | 'give back';
    net_minor: number;
  };
  billing_run: {
    id: Id<'billing_run'>;
    on_date: LocalDate;
    state: RunState;
    prepared_at: Instant;
    who: string;
    who_id: string | null;
    who_name: string;
    asked_by: Id<'person'> | null;
    clients: number;
    looked_at: number;
    after_client: string | null;
    trouble: string | null;
  };
  billing_run_client: {
    run_id: Id<'billing_run'>;
    client_id: Id<'client'>;
  };
  billing_run_held: {
    run_id: Id<'billing_run'>;
    charge_id: Id<'charge'>;
  };
  billing_run_invoice: {
    id: Id<'billing_run_invoice'>;
    run_id: Id<'billing_run'>;
    client_id: Id<'client'>;
    state: 'proposed' | 'changed' | 'held' | 'asked' | 'issued' | 'failed';
    charges: number;
    net_minor: number;
    currency: Currency;
    last_id: Id<'invoice'> | null;
    last_minor: number;
    reasons: readonly RunReason[];
    invoice_id: Id<'invoice'> | null;
    trouble: string | null;
    part_key: string;
    part: InvoicePart;
    through: LocalDate | null;
    is_once: boolean;
  };
  booking: {
    id: Id<'booking'>;
    person_id: Id<'person'> | null;
    starts_at: Instant;
    ends_at: Instant;
    planned_starts_at: Instant;
    planned_ends_at: Instant;
    state: 'planned' | 'underway' | 'done' | 'cancelled';
    travel_before: number;
    version: number;
    travel_after: number;
    on_site: boolean;
    tentative: boolean;
    fixed: boolean;
    bring: string | null;
    crew_id: string | null;
    series_id: string | null;
    cancel_reason: string | null;
    told_client_at: Instant | null;
    opening_set_id: Id<'opening_set'> | null;
    work_id: Id<'work'>;
    work_kind: Rows['work']['kind'];
    ticket_id: Id<'ticket'> | null;
  };
  booking_change: {
    id: number;
    booking_id: Id<'booking'>;
    at: Instant;
    by_id: Id<'person'> | null;
    what: string;
    person_id: Id<'person'> | null;
    starts_at: Instant;
    ends_at: Instant;
  };
  booking_left: {
    booking_id: Id<'booking'>;
    person_id: Id<'person'>;
    at: Instant;
    version: number;
  };
  calendar: {
    id: Id<'calendar'>;
    name: string;
    written: WrittenCalendar;
    version: number;
  };
  calendar_version: {
    calendar_id: Id<'calendar'>;
    version: number;
    written: unknown;
    until: Instant;
    by_person: Id<'person'> | null;
  };
  canned_reply: {
    id: Id<'canned_reply'>;
    person_id: Id<'person'>;
    name: string;
    text: string;
    shared: boolean;
    version: number;
  };
  catalogue_item: {
    id: Id<'catalogue_item'>;
    number: string;
    name: string;
    category: string;
    price: string;
    basis: 'net' | 'gross';
    cost: string;
    currency: Currency;
    tax_category: TaxCategory;
    tax_percent: string;
    archived_at: Instant | null;
    version: number;
  };
  category: {
    id: Id<'category'>;
    parent_id: Id<'category'> | null;
    name: string;
    skill_id: Id<'skill'> | null;
    position: number;
    archived_at: Instant | null;
    version: number;
  };
  charge: {
    id: Id<'charge'>;
    division_id: Id<'division'>;
    client_id: Id<'client'>;
    ticket_id: Id<'ticket'> | null;
    time_entry_id: Id<'time_entry'> | null;
    item_id: Id<'catalogue_item'> | null;
    person_id: Id<'person'> | null;
    kind: ChargeWire['kind'];
    state: 'proposed' | 'approved' | 'waived' | 'withdrawn';
    on_date: LocalDate;
    description: string;
    quantity: string;
    unit: ChargeUnit;
    unit_price: string;
    net_minor: number;
    currency: Currency;
    tax_category: TaxCategory;
    tax_percent: string;
    explanation: Explanation;
    odd: readonly ChargeMark[];
    version: number;
    cause: 'entry' | 'distance' | 'call-out' | 'share' | 'expense' | 'fee' | 'item' | 'recurring' | 'milestone' | 'by hand';
    part: number;
    cost_minor: number | null;
    for_contact_id: Id<'contact'> | null;
    contract_id: Id<'contract'> | null;
    project_id: string | null;
    period: string | null;
    billed_minor: number | null;
    standing: ChargeStanding;
    shared_from: Id<'time_entry'> | null;
    expense_id: Id<'expense'> | null;
    cause_id: string | null;
    contract_line_id: Id<'contract_line'> | null;
    details: string | null;
    settles_minor: number | null;
    oddities: readonly Oddity[];
    held_until: LocalDate | null;
    held_why: string | null;
  };
  charge_decision: {
    id: number;
    charge_id: Id<'charge'>;
    at: Instant;
    who: 'person' | 'contact' | 'job' | 'rule' | 'system' | 'nobody';
    who_id: string | null;
    who_name: string;
    decision: string;
    reason: string | null;
    was: unknown;
    batch_id: string | null;
  };
  charge_question: {
    id: Id<'charge_question'>;
    charge_id: Id<'charge'>;
    at: Instant;
    who: string;
    who_id: string | null;
    who_name: string;
    asked_by: string;
    question: string;
    answer: string | null;
    answered_at: Instant | null;
    answered_by: string | null;
  };
  charge_review_settings: {
    id: number;
    version: number;
    old_days: number;
    rate_percent: number;
  };
  checklist_item: {
    id: Id<'checklist_item'>;
    position: number;
    text: string;
    answer: string | null;
    owner_id: Id<'person'> | null;
    due_on: LocalDate | null;
    due_at: Instant | null;
    answered_at: Instant | null;
    work_id: Id<'work'>;
    work_kind: Rows['work']['kind'];
    ticket_id: Id<'ticket'> | null;
  };
  checklist_template: {
    id: Id<'checklist_template'>;
    name: string;
    items: readonly string[];
    archived_at: Instant | null;
    version: number;
  };
  client: {
    id: Id<'client'>;
    division_id: Id<'division'>;
    number: number;
    name: string;
    domains: readonly string[];
    zone: string;
    calendar_id: Id<'calendar'> | null;
    promise_id: Id<'promise'> | null;
    street: string;
    city: string;
    postcode: string;
    country: string;
    tax_number: string | null;
    tax_exempt: boolean;
    invoice_email: string;
    payment_days: number;
    since: LocalDate;
    archived_at: Instant | null;
    version: number;
    fields: Readonly<Record<string, FactValue>>;
  };
  client_billing_terms: {
    client_id: Id<'client'>;
    version: number;
    billed_every: BilledEvery | null;
    weekday: number | null;
    day: number | null;
    month: number | null;
    per: InvoicePer | null;
    lead_days: number | null;
  };
  clock_warning: {
    ticket_id: Id<'ticket'>;
    clock: string;
    run: number;
    percent: number;
    at: Instant;
  };
  closed_entry: {
    entry_id: Id<'time_entry'>;
    closing_id: Id<'contract_closing'>;
  };
  closed_incident: {
    contract_id: Id<'contract'>;
    allowance_id: Id<'contract_allowance'>;
    ticket_id: Id<'ticket'>;
  };
  closing_override: {
    id: number;
    ticket_id: Id<'ticket'>;
    at: Instant;
    who: 'person' | 'contact' | 'job' | 'rule' | 'system' | 'nobody';
    who_id: string | null;
    who_name: string;
    reason: string;
    obstacles: unknown;
  };
  contact: {
    id: Id<'contact'>;
    client_id: Id<'client'>;
    site_id: Id<'site'> | null;
    name: string;
    email: string;
    phone: string | null;
    title: string | null;
    priority: boolean;
    placeholder: boolean;
    archived_at: Instant | null;
    version: number;
    since: Instant | null;
    fields: Readonly<Record<string, FactValue>>;
    mail_trouble: string | null;
    mail_trouble_at: Instant | null;
  };
  contract: {
    id: Id<'contract'>;
    number: number;
    version: number;
    client_id: Id<'client'>;
    division_id: Id<'division'>;
    name: string;
    agreed_at: Instant | null;
    made_at: Instant;
    starts_on: LocalDate;
    ends_on: LocalDate | null;
    is_preferred: boolean;
    purchase_order: string | null;
    notes: string | null;
    frequency: 'monthly' | 'quarterly' | 'yearly';
    anchored: 'the calendar' | 'its start';
    overage_factor: string;
    renewal: 'ends' | 'goes on';
    term_months: number;
    notice_days: number;
    notice_told_at: Instant | null;
  };
  contract_allowance: {
    id: Id<'contract_allowance'>;
    contract_id: Id<'contract'>;
    name: string;
    measure: 'hours' | 'money' | 'incidents' | 'unlimited';
    granted_units: number;
    each: 'each period' | 'once';
    granted: 'whole' | 'by days';
    carry_days: number;
    borrow_percent: number;
    position: number;
  };
  contract_block: {
    id: Id<'contract_block'>;
    allowance_id: Id<'contract_allowance'>;
    line_id: Id<'contract_line'>;
    granted_units: number;
    starts_on: LocalDate;
    ends_on: LocalDate | null;
  };
  contract_closed: {
    contract_id: Id<'contract'>;
    draws: readonly DrawOnDay[];
    capped: readonly CappedOnDay[];
  };
  contract_closing: {
    id: Id<'contract_closing'>;
    contract_id: Id<'contract'>;
    to_on: LocalDate;
    closed_at: Instant;
    who_name: string;
    entries: number;
  };
  contract_cover: {
    id: Id<'contract_cover'>;
    contract_id: Id<'contract'>;
    position: number;
    grade_ids: readonly string[] | null;
    activity_ids: readonly string[] | null;
    bands: readonly TimeBand[] | null;
    allowance_id: Id<'contract_allowance'> | null;
    cap_units: number | null;
    overage_factor: string | null;
    includes_fees: boolean;
    desk_ids: readonly string[] | null;
    kinds: readonly string[] | null;
    from_on: LocalDate | null;
    to_on: LocalDate | null;
  };
  contract_discount: {
    id: Id<'contract_discount'>;
    line_id: Id<'contract_line'>;
    from_on: LocalDate;
    to_on: LocalDate | null;
    percent: string | null;
    money_off: string | null;
  };
  contract_grant: {
    allowance_id: Id<'contract_allowance'>;
    from_on: LocalDate;
    granted_units: number;
  };
  contract_line: {
    id: Id<'contract_line'>;
    contract_id: Id<'contract'>;
    version: number;
    name: string;
    position: number;
    counted: 'flat' | 'seat' | 'asset' | 'metered';
    frequency: 'monthly' | 'quarterly' | 'yearly' | 'once';
    anchor_on: LocalDate;
    paid: 'in advance' | 'in arrears';
    lead_days: number | null;
    proration: 'daily' | 'first day' | 'whole';
    minimum: number | null;
    maximum: number | null;
    starts_on: LocalDate;
    ends_on: LocalDate | null;
    priced: 'one price' | 'tiers' | 'volume';
    unit_cost: string | null;
    names_on_invoice: boolean;
    taken_away_at: Instant | null;
  };
  contract_price: {
    line_id: Id<'contract_line'>;
    from_on: LocalDate;
    price: string;
    tiers: readonly Tier[];
  };
  contract_reach: {
    contract_id: Id<'contract'>;
    reach: 'asset' | 'site' | 'desk' | 'kind' | 'contact';
    of_what: string;
  };
  contract_reading: {
    id: Id<'contract_reading'>;
    line_id: Id<'contract_line'>;
    on_date: LocalDate;
    quantity: string;
    key: string | null;
    source: 'by hand' | 'from a file' | 'by a program';
    at: Instant;
  };
  contract_rounding: {
    contract_id: Id<'contract'>;
    position: number;
    activity_id: Id<'activity'> | null;
    increment: number;
    mode: 'up' | 'nearest' | 'down';
    minimum: number;
  };
  contract_seat: {
    id: Id<'contract_seat'>;
    line_id: Id<'contract_line'>;
    version: number;
    contact_id: Id<'contact'> | null;
    asset_id: Id<'asset'> | null;
    starts_on: LocalDate;
    ends_on: LocalDate | null;
    ended_by_leaving: string | null;
  };
  contract_settings: {
    id: number;
    reach_order: readonly Reach[];
    warn_levels: readonly number[];
    version: number;
  };
  cost_rate: {
    person_id: Id<'person'>;
    from_on: LocalDate;
    rate: string;
  };
  cost_trial: {
    id: Id<'cost_trial'>;
    client_id: Id<'client'>;
    contract_ids: readonly string[];
    from_on: LocalDate;
    to_on: LocalDate;
    made_at: Instant;
    state: 'waiting' | 'running' | 'ready' | 'failed';
    percent: number;
    result: unknown;
    trouble: string | null;
  };
  day_closed: {
    person_id: Id<'person'>;
    day: LocalDate;
    closed_at: Instant;
  };
  day_plan: {
    id: Id<'day_plan'>;
    by_id: Id<'person'>;
    made_at: Instant;
    asked: unknown;
    state: 'waiting' | 'running' | 'ready' | 'applied' | 'failed';
    stop_asked: boolean;
    rounds_done: number;
    result: unknown;
    trouble: string | null;
  };
  demo: {
    id: number;
    clock_offset_seconds: number;
  };
  desk: {
    id: Id<'desk'>;
    division_id: Id<'division'>;
    name: string;
    letter: string;
    team_id: Id<'team'> | null;
    position: number;
    usual_activity_id: Id<'activity'> | null;
    inside_reach: 'house' | 'team';
  };
  desk_line: {
    desk_id: Id<'desk'>;
    line: 'first' | 'second';
    team_id: Id<'team'>;
    assigns: 'nobody' | 'least loaded' | 'usual technician';
  };
  division: {
    id: Id<'division'>;
    name: string;
    brand: string | null;
    mail_from: string | null;
    labour_tax: Tax | null;
    version: number;
  };
  entry_effect: {
    time_entry_id: Id<'time_entry'>;
    effect: EntryEffect;
  };
  escalation: {
    id: Id<'escalation'>;
    ticket_id: Id<'ticket'>;
    at: Instant;
    why: string;
    person_id: Id<'person'>;
    round: number;
    mailed_at: Instant | null;
    taken_at: Instant | null;
    again_at: Instant | null;
  };
  event: {
    id: Id<'event'>;
    xact: string;
    type: string;
    version: number;
    data: unknown;
    subject: string;
    subject_id: string;
    ticket_id: Id<'ticket'> | null;
    client_id: Id<'client'> | null;
    contract_id: string | null;
    project_id: string | null;
    division_id: Id<'division'> | null;
    happened_at: Instant;
    written_at: Instant;
    who: 'person' | 'contact' | 'job' | 'rule' | 'system' | 'nobody';
    who_id: string | null;
    who_name: string;
    via: 'web' | 'api' | 'mail' | 'page' | 'job' | 'system';
    cause_id: Id<'event'> | null;
  };
  expense: {
    id: Id<'expense'>;
    person_id: Id<'person'>;
    client_id: Id<'client'> | null;
    day: LocalDate;
    category_id: Id<'expense_category'>;
    paid_minor: number;
    currency: Currency;
    exchange: string | null;
    gross_minor: number;
    net_minor: number;
    tax_percent: string;
    note: string | null;
    billable: boolean;
    markup_percent: string;
    own_money: boolean;
    receipt_name: string | null;
    receipt_type: string | null;
    receipt_bytes: number | null;
    receipt_blob: string | null;
    approval: 'open' | 'approved' | 'returned';
    reimbursed_on: LocalDate | null;
    removed_at: Instant | null;
    version: number;
    work_id: Id<'work'>;
    work_kind: Rows['work']['kind'];
    ticket_id: Id<'ticket'> | null;
  };
  expense_category: {
    id: Id<'expense_category'>;
    name: string;
    tax_percent: string;
    billable: boolean;
    markup_percent: string;
    archived_at: Instant | null;
    version: number;
  };
  flat_fee: {
    id: Id<'flat_fee'>;
    name: string;
    item_id: Id<'catalogue_item'>;
    asks_client: boolean;
    category_id: Id<'category'> | null;
    words: readonly string[];
    for_new_person: boolean;
    for_new_asset: boolean;
    position: number;
    archived_at: Instant | null;
    version: number;
  };
  follower: {
    ticket_id: Id<'ticket'>;
    person_id: Id<'person'>;
    since: Instant;
  };
  grade: {
    id: Id<'grade'>;
    name: string;
    position: number;
  };
  house_billing_terms: {
    id: number;
    version: number;
    billed_every: BilledEvery;
    weekday: number | null;
    day: number | null;
    month: number | null;
    per: InvoicePer;
    lead_days: number;
  };
  idempotency_key: {
    actor: string;
    key: string;
    request_hash: string;
    status: number | null;
    answer: unknown;
    at: Instant;
  };
  internal_work: {
    id: Id<'internal_work'>;
    name: string;
    archived_at: Instant | null;
    version: number;
    general: boolean;
  };
  invoice: {
    id: Id<'invoice'>;
    kind: DocumentKind;
    division_id: Id<'division'>;
    series_id: Id<'invoice_series'>;
    sequence: number;
    number: string;
    client_id: Id<'client'>;
    issued_at: Instant;
    issued_on: LocalDate;
    due_on: LocalDate;
    currency: Currency;
    seller: Seller;
    buyer: Party;
    net_minor: number;
    tax_minor: number;
    gross_minor: number;
    issued_by: Id<'person'> | null;
    corrects_id: Id<'invoice'> | null;
    reason: string | null;
    undoes: boolean | null;
    part_key: string;
    billed_for: string | null;
    purchase_order: string | null;
  };
  invoice_document: {
    invoice_id: Id<'invoice'>;
    format: string;
    bytes: Buffer;
    made_at: Instant;
  };
  invoice_line: {
    invoice_id: Id<'invoice'>;
    position: number;
    description: string;
    quantity: string;
    unit: ChargeUnit;
    unit_price: string;
    net_minor: number;
    tax_category: TaxCategory;
    tax_percent: string;
    corrects_position: number | null;
    details: string | null;
  };
  invoice_series: {
    id: Id<'invoice_series'>;
    division_id: Id<'division'>;
    kind: 'invoice' | 'credit note' | 'receipt';
    prefix: string;
    last_number: number;
  };
  invoice_standing: {
    invoice_id: Id<'invoice'>;
    settled_minor: number;
    mailed_at: Instant | null;
    ledger_at: Instant | null;
    ledger_id: string | null;
    undelivered_at: Instant | null;
  };
  invoice_tax: {
    invoice_id: Id<'invoice'>;
    tax_category: TaxCategory;
    tax_percent: string;
    base_minor: number;
    tax_minor: number;
  };
  job_pool: {
    id: string;
    process: string;
    beat_at: Instant;
  };
  kind_rule: {
    kind: string;
    offered: boolean;
    promise_id: Id<'promise'> | null;
    asks_time: readonly string[];
    activity_ids: readonly string[];
  };
  learned_estimate: {
    likeness: string;
    key: string;
    cases: number;
    median: number;
    p80: number;
    judged: number;
    right_cases: number;
    learned_at: Instant;
  };
  ledger_cursor: {
    id: number;
    after: number;
  };
  mail_aside: {
    source_id: Id<'mail_source'>;
    at: Instant;
    sender: string;
    subject: string;
    reason: string;
    rule_id: Id<'mail_rule'> | null;
    ticket_id: Id<'ticket'> | null;
    ended_at: Instant | null;
    ended_by: Id<'person'> | null;
  };
  mail_rule: {
    id: Id<'mail_rule'>;
    name: string;
    position: number;
    sender: string;
    subject: string;
    header: string;
    header_holds: string;
    does: 'aside' | 'route';
    reason: string | null;
    kind: MailRuleForm['kind'] | null;
    impact: MailRuleForm['impact'] | null;
    urgency: MailRuleForm['urgency'] | null;
    line: MailRuleForm['line'] | null;
    category_id: Id<'category'> | null;
    desk_id: Id<'desk'> | null;
    client_id: Id<'client'> | null;
    asset_id: Id<'asset'> | null;
    archived_at: Instant | null;
    version: number;
  };
  mail_source: {
    id: Id<'mail_source'>;
    sha256: Buffer;
    message_id: string | null;
    received_at: Instant;
    envelope_from: string;
    envelope_to: readonly string[];
    raw: Buffer;
    decision: unknown;
    headers: Readonly<Record<string, string>>;
    sender: string | null;
    subject: string | null;
  };
  member_update: {
    id: Id<'member_update'>;
    umbrella_id: Id<'ticket'>;
    at: Instant;
    person_id: Id<'person'> | null;
    text: string;
    asks: boolean;
  };
  membership: {
    id: Id<'membership'>;
    umbrella_id: Id<'ticket'>;
    ticket_id: Id<'ticket'>;
    joined_at: Instant;
    joined_by: Id<'person'> | null;
    was: unknown;
    ended_at: Instant | null;
    ended_by: 'detached' | 'resolved' | null;
  };
  message: {
    id: Id<'message'>;
    ticket_id: Id<'ticket'>;
    at: Instant;
    direction: 'in' | 'out' | 'note';
    visibility: 'public' | 'inside';
    author_person_id: Id<'person'> | null;
    author_contact_id: Id<'contact'> | null;
    author_name: string;
    author_email: string | null;
    to_addresses: readonly string[];
    cc_addresses: readonly string[];
    subject: string;
    text: string;
    html: string | null;
    message_id: string | null;
    in_reply_to: string | null;
    reference_ids: readonly string[];
    automatic: boolean;
    via: string;
    source_id: Id<'mail_source'> | null;
    leaves_at: Instant | null;
    leaving_since: Instant | null;
    left_at: Instant | null;
    taken_back_at: Instant | null;
    trouble: string | null;
    call_outcome: CallOutcome | null;
    thanks: boolean;
    seq: number;
    update_id: Id<'member_update'> | null;
    from_ticket_id: Id<'ticket'> | null;
    third_party: string | null;
    notice: MessageWire['notice'] | null;
    left_out: MessageWire['leftOut'];
    deliveries: unknown;
    undelivered_at: Instant | null;
  };
  minutes_here: {
    person_id: Id<'person'>;
    day: LocalDate;
    minutes: number;
    last_minute: Instant;
  };
  notice: {
    id: Id<'notice'>;
    person_id: Id<'person'>;
    at: Instant;
    text: string;
    ticket_id: Id<'ticket'> | null;
    seen_at: Instant | null;
    urgent: boolean;
  };
  on_call: {
    id: Id<'on_call'>;
    person_id: Id<'person'>;
    starts_at: Instant;
    ends_at: Instant;
  };
  on_call_settings: {
    id: number;
    after_messages: number;
    again_minutes: number;
  };
  opening_set: {
    id: Id<'opening_set'>;
    ticket_id: Id<'ticket'>;
    made_by: Id<'person'>;
    made_at: Instant;
    held_until: Instant;
    state: 'open' | 'taken' | 'declined' | 'released' | 'lapsed';
    ended_at: Instant | null;
    nonce: string | null;
    token_hash: Buffer | null;
  };
  outbox: {
    id: number;
    seq: number | null;
    topic: string;
    subject_id: string | null;
    payload: { readonly by?: string };
    at: Instant;
    division_id: Id<'division'> | null;
    ticket_id: Id<'ticket'> | null;
    client_id: Id<'client'> | null;
    person_id: Id<'person'> | null;
  };
  outbox_position: {
    id: number;
    last_seq: number;
  };
  outside_appointment: {
    calendar_id: Id<'outside_calendar'>;
    uid: string;
    starts_at: Instant;
    ends_at: Instant;
    summary: string;
  };
  outside_calendar: {
    id: Id<'outside_calendar'>;
    person_id: Id<'person'>;
    name: string;
    address: string | null;
    body: string | null;
    etag: string | null;
    made_at: Instant;
    read_at: Instant | null;
    trouble: string | null;
  };
  overrun: {
    booking_id: Id<'booking'>;
    collides_with: Id<'booking'>;
    found_at: Instant;
    settled_at: Instant | null;
  };
  own_condition: {
    id: Id<'own_condition'>;
    name: string;
    kinds: readonly string[];
    moves: readonly string[];
    rule: unknown;
    archived_at: Instant | null;
    version: number;
  };
  own_field: {
    id: Id<'own_field'>;
    on_record: string;
    name: string;
    kind: string;
    choices: readonly string[];
    shown: unknown;
    required: unknown;
    asked: readonly string[];
    position: number;
    archived_at: Instant | null;
    version: number;
  };
  own_kind: {
    id: Id<'own_kind'>;
    name: string;
    stands_for: OwnKindForm['standsFor'];
    archived_at: Instant | null;
    version: number;
  };
  own_status: {
    id: Id<'own_status'>;
    name: string;
    stands_for: 'queued' | 'underway' | 'on hold';
    waits_for: 'client' | 'supplier' | 'change window' | null;
    position: number;
    archived_at: Instant | null;
    version: number;
  };
  password_reset: {
    id: Id<'password_reset'>;
    person_id: Id<'person'>;
    nonce: string;
    token_hash: Buffer;
    made_at: Instant;
    made_by: Id<'person'> | null;
    used_at: Instant | null;
  };
  payment: {
    id: Id<'payment'>;
    client_id: Id<'client'> | null;
    at: Instant;
    received_on: LocalDate;
    amount_minor: number;
    currency: Currency;
    source: 'ledger' | 'by hand' | 'bank';
    external_id: string | null;
    reference: string;
  };
  payment_return: {
    id: Id<'payment_return'>;
    payment_id: Id<'payment'>;
    amount_minor: number;
    at: Instant;
    reason: string;
  };
  person: {
    id: Id<'person'>;
    name: string;
    email: string;
    password_hash: string;
    role: AccessRole;
    grade_id: Id<'grade'> | null;
    team_id: Id<'team'> | null;
    technician: boolean;
    active: boolean;
    created_at: Instant;
    holiday_region: string | null;
    home_name: string | null;
    home_latitude: string | null;
    home_longitude: string | null;
    timer_on_open: boolean;
  };
  person_access: {
    person_id: Id<'person'>;
    division_id: Id<'division'>;
    role: string | null;
  };
  person_hours: {
    person_id: Id<'person'>;
    week: unknown;
  };
  person_skill: {
    person_id: Id<'person'>;
    skill_id: Id<'skill'>;
    level: number;
  };
  presence: {
    ticket_id: Id<'ticket'>;
    person_id: Id<'person'>;
    seen_at: Instant;
    writing: boolean;
  };
  price_rule: {
    id: Id<'price_rule'>;
    version: number;
    contract_id: Id<'contract'> | null;
    client_id: Id<'client'> | null;
    item_id: Id<'catalogue_item'> | null;
    category: string | null;
    from_quantity: string;
    from_on: LocalDate;
    to_on: LocalDate | null;
    sets: 'price' | 'percent off' | 'never billed';
    price: string | null;
    basis: 'net' | 'gross';
    percent: string | null;
    archived_at: Instant | null;
  };
  promise: {
    id: Id<'promise'>;
    name: string;
  };
  promise_version: {
    id: Id<'promise_version'>;
    promise_id: Id<'promise'>;
    version: number;
    targets: unknown;
    created_at: Instant;
  };
  proposed_dismissed: {
    person_id: Id<'person'>;
    key: string;
    at: Instant;
  };
  provider: {
    id: number;
    name: string;
    zone: string;
    currency: Currency;
    seller: Seller;
    calendar_id: Id<'calendar'>;
    promise_version_id: Id<'promise_version'>;
    mail_from: string;
    holiday_region: string | null;
  };
  rate_rule: {
    id: Id<'rate_rule'>;
    level: 'contract' | 'client' | 'default';
    client_id: Id<'client'> | null;
    grade_id: Id<'grade'> | null;
    activity_id: Id<'activity'> | null;
    band: TimeBand | null;
    rate: string;
    valid_from: LocalDate;
    valid_to: LocalDate | null;
    contract_id: Id<'contract'> | null;
  };
  reminder: {
    id: Id<'reminder'>;
    client_id: Id<'client'>;
    step: number;
    mail_to: string;
    subject: string;
    text: string;
    at: Instant;
    who: string;
    who_id: string | null;
    who_name: string;
    mailed_at: Instant | null;
    undelivered_at: Instant | null;
  };
  reminder_invoice: {
    reminder_id: Id<'reminder'>;
    invoice_id: Id<'invoice'>;
    step: number;
    on_date: LocalDate;
    left_minor: number;
  };
  reminder_pause: {
    id: Id<'reminder_pause'>;
    client_id: Id<'client'>;
    invoice_id: Id<'invoice'> | null;
    until: LocalDate | null;
    reason: string;
    at: Instant;
    who: string;
    who_id: string | null;
    who_name: string;
    ended_at: Instant | null;
  };
  reminder_settings: {
    id: number;
    by_themselves: boolean;
    version: number;
  };
  reminder_step: {
    position: number;
    after_days: number;
    subject: string;
    text: string;
  };
  request_form: {
    id: Id<'request_form'>;
    name: string;
    path: string;
    intro: string;
    kind: RequestFormForm['kind'] | null;
    category_id: Id<'category'> | null;
    fields: readonly string[];
    archived_at: Instant | null;
    version: number;
  };
  routine: {
    id: Id<'routine'>;
    name: string;
    template_id: Id<'ticket_template'>;
    client_id: Id<'client'>;
    contact_id: Id<'contact'>;
    rule: string;
    starts_on: LocalDate;
    minute: number;
    next_at: Instant | null;
    archived_at: Instant | null;
    version: number;
  };
  routine_turn: {
    routine_id: Id<'routine'>;
    at: Instant;
    ticket_id: Id<'ticket'> | null;
    trouble: string | null;
  };
  saved_view: {
    id: Id<'saved_view'>;
    list: string;
    person_id: Id<'person'>;
    name: string;
    query: string;
    at: Instant;
    reach: 'own' | 'team' | 'all';
  };
  schedule_feed: {
    person_id: Id<'person'>;
    made_at: Instant;
    nonce: string;
    token_hash: Buffer;
  };
  seat_of_leaver: {
    line_id: Id<'contract_line'>;
    contact_id: Id<'contact'> | null;
    asset_id: Id<'asset'> | null;
    starts_on: LocalDate;
    ends_on: LocalDate | null;
  };
  session: {
    sid: string;
    sess: unknown;
    expire: Instant;
  };
  shift: {
    person_id: Id<'person'>;
    day: LocalDate;
    hours: readonly string[];
    note: string | null;
  };
  sign_in: {
    id: number;
    at: Instant;
    email: string;
    person_id: Id<'person'> | null;
    way: string;
    ok: boolean;
    address: string | null;
    tried_at: Instant;
  };
  site: {
    id: Id<'site'>;
    client_id: Id<'client'>;
    name: string;
    street: string;
    city: string;
    postcode: string;
    latitude: string | null;
    longitude: string | null;
    version: number;
    directions: string | null;
  };
  skill: {
    id: Id<'skill'>;
    name: string;
  };
  status_link: {
    ticket_id: Id<'ticket'>;
    made_at: Instant;
    nonce: string;
    token_hash: Buffer;
  };
  tab_level: {
    client_id: Id<'client'>;
    level_minor: number;
    person_id: Id<'person'>;
    told_at: Instant | null;
  };
  team: {
    id: Id<'team'>;
    name: string;
    position: number;
  };
  third_party: {
    id: Id<'third_party'>;
    name: string;
    address: string;
  };
  ticket: {
    id: Id<'ticket'>;
    division_id: Id<'division'>;
    number: number;
    secret: string;
    subject: string;
    kind: Kind | 'unsorted';
    status: Status;
    hold_reason: HoldReason | null;
    outcome: TicketOutcome | null;
    impact: Impact | null;
    urgency: Urgency | null;
    priority: Priority | null;
    client_id: Id<'client'> | null;
    contact_id: Id<'contact'> | null;
    asset_id: Id<'asset'> | null;
    desk_id: Id<'desk'> | null;
    assignee_id: Id<'person'> | null;
    sender_email: string | null;
    sender_name: string | null;
    threading_why: unknown;
    linked_ticket_id: Id<'ticket'> | null;
    promise_version_id: Id<'promise_version'>;
    estimate_minutes: number | null;
    received_at: Instant;
    changed_at: Instant;
    resolved_at: Instant | null;
    closed_at: Instant | null;
    reply_owed_since: Instant | null;
    due_at: Instant | null;
    version: number;
    search: string | null;
    resolution: string | null;
    closes_at: Instant | null;
    reply_owed_by: string | null;
    is_umbrella: boolean;
    umbrella_id: Id<'ticket'> | null;
    category_id: Id<'category'> | null;
    line: 'first' | 'second' | null;
    merged_into_id: Id<'ticket'> | null;
    look_since: Instant | null;
    look_at: string | null;
    no_fee_at: Instant | null;
    fields: Readonly<Record<string, FactValue>>;
    own_status_id: Id<'own_status'> | null;
    routine_id: Id<'routine'> | null;
    request_form_id: Id<'request_form'> | null;
    own_kind_id: Id<'own_kind'> | null;
    needs_visit: boolean;
    look_is: Look | null;
  };
  ticket_clock: {
    ticket_id: Id<'ticket'>;
    clock: string;
    state: string;
    due_at: Instant | null;
    missed_at: Instant | null;
    ended_at: Instant | null;
    elapsed_seconds: number;
    target_seconds: number;
    runs_met: number;
    runs_missed: number;
    warn_at: Instant | null;
    warn_percent: number | null;
  };
  ticket_contract: {
    ticket_id: Id<'ticket'>;
    contract_id: Id<'contract'> | null;
  };
  ticket_fact: {
    id: number;
    ticket_id: Id<'ticket'>;
    at: Instant;
    fact: string;
    detail: unknown;
    written_at: Instant;
  };
  ticket_fee: {
    ticket_id: Id<'ticket'>;
    fee_id: Id<'flat_fee'>;
    quantity: number;
    state: 'agreed' | 'asked' | 'refused';
    charge_id: Id<'charge'> | null;
    result: 'success' | 'failed' | null;
    note: string | null;
    set_at: Instant;
    set_by: Id<'person'> | null;
  };
  ticket_relation: {
    one_id: Id<'ticket'>;
    other_id: Id<'ticket'>;
    at: Instant;
    by_person: Id<'person'> | null;
  };
  ticket_settings: {
    id: number;
    priority_matrix: PriorityMatrix;
    closing_rules: ClosingBook['rules'];
    always_asked: readonly ClosingCheck[];
    close_after_dates: number;
    reopen_days: number;
  };
  ticket_template: {
    id: Id<'ticket_template'>;
    name: string;
    subject: string;
    text: string;
    kind: MailRuleForm['kind'] | null;
    impact: MailRuleForm['impact'] | null;
    urgency: MailRuleForm['urgency'] | null;
    category_id: Id<'category'> | null;
    desk_id: Id<'desk'> | null;
    line: MailRuleForm['line'] | null;
    checklist: readonly string[];
    archived_at: Instant | null;
    version: number;
  };
  time_complete: {
    person_id: Id<'person'>;
    up_to: LocalDate;
    declared_at: Instant;
  };
  time_decision: {
    id: number;
    entry_id: Id<'time_entry'> | null;
    expense_id: Id<'expense'> | null;
    at: Instant;
    who: 'person' | 'contact' | 'job' | 'rule' | 'system' | 'nobody';
    who_id: string | null;
    who_name: string;
    decision: 'approve' | 'return' | 'take back' | 'change';
    remark: string | null;
    was: unknown;
  };
  time_entry: {
    id: Id<'time_entry'>;
    person_id: Id<'person'>;
    client_id: Id<'client'> | null;
    starts_at: Instant;
    ends_at: Instant;
    minutes: number;
    grade_id: Id<'grade'>;
    activity_id: Id<'activity'>;
    note: string | null;
    billable: boolean;
    reason: string | null;
    removed_at: Instant | null;
    version: number;
    booking_id: Id<'booking'> | null;
    approval: 'open' | 'approved' | 'returned';
    corrects: Id<'time_entry'> | null;
    corrected_at: Instant | null;
    corrected_from: number | null;
    distance: string | null;
    reimbursed_on: LocalDate | null;
    inside_note: string | null;
    distance_unit: 'km' | 'miles' | null;
    distance_rate: string | null;
    distance_paid_back: string | null;
    work_id: Id<'work'>;
    work_kind: Rows['work']['kind'];
    ticket_id: Id<'ticket'> | null;
    contract_id: Id<'contract'> | null;
    chosen_by_hand: boolean;
    chosen_contract_id: Id<'contract'> | null;
  };
  time_off: {
    id: Id<'time_off'>;
    person_id: Id<'person'>;
    starts_at: Instant;
    ends_at: Instant;
    reason: string;
    absence_id: Id<'absence'> | null;
  };
  time_settings: {
    id: number;
    band_pricing: BandPricing;
    labour_tax: Tax;
    distance_unit: 'km' | 'miles';
    distance_rate: string;
    distance_paid_back: string;
    long_minutes: number;
  };
  timer: {
    id: Id<'timer'>;
    person_id: Id<'person'>;
    started_at: Instant;
    running_since: Instant | null;
    counted_seconds: number;
    work_id: Id<'work'>;
    work_kind: Rows['work']['kind'];
    ticket_id: Id<'ticket'> | null;
  };
  travel_time: {
    place_a: string;
    place_b: string;
    minutes: number;
    source: 'by hand' | 'logged';
    set_at: Instant;
    person_id: Id<'person'> | null;
  };
  upload: {
    id: Id<'upload'>;
    ticket_id: Id<'ticket'>;
    person_id: Id<'person'>;
    at: Instant;
    name: string;
    media_type: string;
    bytes: number;
    blob: string;
  };
  waiver: {
    id: number;
    ticket_id: Id<'ticket'>;
    at: Instant;
    who: 'person' | 'contact' | 'job' | 'rule' | 'system' | 'nobody';
    who_id: string | null;
    who_name: string;
    did: 'waived' | 'thanks' | 'taken back';
    reason: string;
    owed_since: Instant;
    owed_by: string | null;
  };
  work: {
    id: Id<'work'>;
    kind: 'ticket' | 'internal work' | 'project task';
  };
  work_facts: {
    id: Id<'work'>;
    kind: Rows['work']['kind'];
    number: number | null;
    subject: string;
    division_id: Id<'division'> | null;
    client_id: Id<'client'> | null;
    contact_id: Id<'contact'> | null;
    site_id: Id<'site'> | null;
    category_id: Id<'category'> | null;
    desk_id: Id<'desk'> | null;
    assignee_id: Id<'person'> | null;
    priority: Priority | null;
    ticket_kind: Kind | 'unsorted' | null;
    needs_visit: boolean | null;
    estimate_minutes: number | null;
    ended: boolean | null;
    closed_at: Instant | null;
  };
}

/** A row of a table, or some of its columns. */
export type Row<Table extends keyof Rows, Column extends keyof Rows[Table] = keyof Rows[Table]> = Readonly<Pick<Rows[Table], Column>>;

/** Columns of a table that is joined where it has such a row: each may be null. */
export type Joined<Table extends keyof Rows, Column extends keyof Rows[Table]> = {
  readonly [C in Column]: Rows[Table][C] | null;
};
