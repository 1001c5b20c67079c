// Made by `npm run rows` from the migrated schema; not written by hand. A test run fails where it is not current.
import type { ChargeStanding, ChargeUnit, ChargeWire, DocumentKind, Party, Seller } from '@core/billing';
import type {
  CallOutcome,
  ClosingBook,
  ClosingCheck,
  HoldReason,
  Impact,
  Kind,
  MailRuleForm,
  MessageWire,
  Priority,
  PriorityMatrix,
  Status,
  TicketOutcome,
  Urgency,
} from '@core/desk';
import type { Tax, TaxCategory } from '@core/goods';
import type { AccessRole, Currency, Explanation, Instant, LocalDate } from '@core/ground';
import type { BandPricing, EntryEffect, Pricing, Rounding, TimeBand } from '@core/time';

/** The columns of each table and view, as the driver hands them over. */
export interface Rows {
  absence: {
    id: string;
    person_id: string;
    kind_id: string;
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
    decided_by: string | null;
    decided_at: Instant | null;
    remark: string | null;
    version: number;
  };
  absence_grant: {
    person_id: string;
    kind_id: string;
    year: number;
    halves: number;
  };
  absence_kind: {
    id: string;
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
    id: string;
    name: string;
    rounding: Rounding;
    pricing: Pricing;
    call_out_fee: string | null;
    position: number;
    visit: boolean;
    travel: boolean;
  };
  allocation: {
    id: string;
    invoice_id: string;
    payment_id: string | null;
    credit_note_id: string | null;
    amount_minor: number;
    at: Instant;
    takes_back_id: string | null;
  };
  api_token: {
    id: string;
    person_id: string;
    label: string;
    token_hash: Buffer;
    created_at: Instant;
    last_used_at: Instant | null;
    revoked_at: Instant | null;
  };
  asset: {
    id: string;
    client_id: string;
    site_id: string | null;
    contact_id: string | null;
    number: string;
    name: string;
    make: string | null;
    archived_at: Instant | null;
    version: number;
    since: Instant | null;
    fields: unknown;
  };
  attachment: {
    id: string;
    message_id: string;
    name: string;
    media_type: string;
    bytes: number;
    content_id: string | null;
    blob: string;
  };
  back_answer: {
    id: number;
    update_id: string;
    ticket_id: string;
    at: Instant;
    back: boolean;
  };
  billing_link: {
    id: number;
    invoice_id: string;
    position: number;
    charge_id: string | null;
    contract_line_id: string | null;
    period: string | null;
    does: 'bill' | 'undo' | 'give back';
    net_minor: number;
  };
  booking: {
    id: string;
    person_id: string | null;
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
    opening_set_id: string | null;
    work_id: string;
    work_kind: Rows['work']['kind'];
    ticket_id: string | null;
  };
  booking_change: {
    id: number;
    booking_id: string;
    at: Instant;
    by_id: string | null;
    what: string;
    person_id: string | null;
    starts_at: Instant;
    ends_at: Instant;
  };
  booking_left: {
    booking_id: string;
    person_id: string;
    at: Instant;
    version: number;
  };
  calendar: {
    id: string;
    name: string;
    written: unknown;
    version: number;
  };
  calendar_version: {
    calendar_id: string;
    version: number;
    written: unknown;
    until: Instant;
    by_person: string | null;
  };
  canned_reply: {
    id: string;
    person_id: string;
    name: string;
    text: string;
    shared: boolean;
    version: number;
  };
  catalogue_item: {
    id: string;
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
    id: string;
    parent_id: string | null;
    name: string;
    skill_id: string | null;
    position: number;
    archived_at: Instant | null;
    version: number;
  };
  charge: {
    id: string;
    division_id: string;
    client_id: string;
    ticket_id: string | null;
    time_entry_id: string | null;
    item_id: string | null;
    person_id: string | null;
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
    odd: ChargeWire['odd'];
    version: number;
    cause: 'entry' | 'distance' | 'call-out' | 'share' | 'expense' | 'fee' | 'item' | 'recurring' | 'milestone' | 'by hand';
    part: number;
    cost_minor: number | null;
    for_contact_id: string | null;
    contract_id: string | null;
    project_id: string | null;
    period: string | null;
    billed_minor: number | null;
    standing: ChargeStanding;
    shared_from: string | null;
    expense_id: string | null;
    cause_id: string | null;
  };
  charge_decision: {
    id: number;
    charge_id: string;
    at: Instant;
    who: 'person' | 'contact' | 'job' | 'rule' | 'system' | 'nobody';
    who_id: string | null;
    who_name: string;
    decision: string;
    reason: string | null;
    was: unknown;
    batch_id: string | null;
  };
  checklist_item: {
    id: string;
    position: number;
    text: string;
    answer: string | null;
    owner_id: string | null;
    due_on: LocalDate | null;
    due_at: Instant | null;
    answered_at: Instant | null;
    work_id: string;
    work_kind: Rows['work']['kind'];
    ticket_id: string | null;
  };
  checklist_template: {
    id: string;
    name: string;
    items: readonly string[];
    archived_at: Instant | null;
    version: number;
  };
  client: {
    id: string;
    division_id: string;
    number: number;
    name: string;
    domains: readonly string[];
    zone: string;
    calendar_id: string | null;
    promise_id: string | null;
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
    fields: unknown;
  };
  client_price: {
    client_id: string;
    item_id: string;
    price: string;
    basis: 'net' | 'gross';
  };
  clock_warning: {
    ticket_id: string;
    clock: string;
    run: number;
    percent: number;
    at: Instant;
  };
  closing_override: {
    id: number;
    ticket_id: string;
    at: Instant;
    who: 'person' | 'contact' | 'job' | 'rule' | 'system' | 'nobody';
    who_id: string | null;
    who_name: string;
    reason: string;
    obstacles: unknown;
  };
  contact: {
    id: string;
    client_id: string;
    site_id: string | null;
    name: string;
    email: string;
    phone: string | null;
    title: string | null;
    priority: boolean;
    placeholder: boolean;
    archived_at: Instant | null;
    version: number;
    since: Instant | null;
    fields: unknown;
    mail_trouble: string | null;
    mail_trouble_at: Instant | null;
  };
  day_closed: {
    person_id: string;
    day: LocalDate;
    closed_at: Instant;
  };
  day_plan: {
    id: string;
    by_id: string;
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
    id: string;
    division_id: string;
    name: string;
    letter: string;
    team_id: string | null;
    position: number;
    usual_activity_id: string | null;
    inside_reach: 'house' | 'team';
  };
  desk_line: {
    desk_id: string;
    line: 'first' | 'second';
    team_id: string;
    assigns: 'nobody' | 'least loaded' | 'usual technician';
  };
  division: {
    id: string;
    name: string;
    brand: string | null;
    mail_from: string | null;
    labour_tax: Tax | null;
    version: number;
  };
  entry_effect: {
    time_entry_id: string;
    effect: EntryEffect;
  };
  escalation: {
    id: string;
    ticket_id: string;
    at: Instant;
    why: string;
    person_id: string;
    round: number;
    mailed_at: Instant | null;
    taken_at: Instant | null;
    again_at: Instant | null;
  };
  event: {
    id: string;
    xact: string;
    type: string;
    version: number;
    data: unknown;
    subject: string;
    subject_id: string;
    ticket_id: string | null;
    client_id: string | null;
    contract_id: string | null;
    project_id: string | null;
    division_id: string | null;
    happened_at: Instant;
    written_at: Instant;
    who: 'person' | 'contact' | 'job' | 'rule' | 'system' | 'nobody';
    who_id: string | null;
    who_name: string;
    via: 'web' | 'api' | 'mail' | 'page' | 'job' | 'system';
    cause_id: string | null;
  };
  expense: {
    id: string;
    person_id: string;
    client_id: string | null;
    day: LocalDate;
    category_id: string;
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
    work_id: string;
    work_kind: Rows['work']['kind'];
    ticket_id: string | null;
  };
  expense_category: {
    id: string;
    name: string;
    tax_percent: string;
    billable: boolean;
    markup_percent: string;
    archived_at: Instant | null;
    version: number;
  };
  flat_fee: {
    id: string;
    name: string;
    item_id: string;
    asks_client: boolean;
    category_id: string | null;
    words: readonly string[];
    for_new_person: boolean;
    for_new_asset: boolean;
    position: number;
    archived_at: Instant | null;
    version: number;
  };
  follower: {
    ticket_id: string;
    person_id: string;
    since: Instant;
  };
  grade: {
    id: string;
    name: string;
    position: number;
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
    id: string;
    name: string;
    archived_at: Instant | null;
    version: number;
    general: boolean;
  };
  invoice: {
    id: string;
    kind: DocumentKind;
    division_id: string;
    series_id: string;
    sequence: number;
    number: string;
    client_id: string;
    issued_at: Instant;
    issued_on: LocalDate;
    due_on: LocalDate;
    currency: Currency;
    seller: Seller;
    buyer: Party;
    net_minor: number;
    tax_minor: number;
    gross_minor: number;
    issued_by: string | null;
    corrects_id: string | null;
    reason: string | null;
    undoes: boolean | null;
  };
  invoice_document: {
    invoice_id: string;
    format: string;
    bytes: Buffer;
    made_at: Instant;
  };
  invoice_line: {
    invoice_id: string;
    position: number;
    description: string;
    quantity: string;
    unit: ChargeUnit;
    unit_price: string;
    net_minor: number;
    tax_category: TaxCategory;
    tax_percent: string;
    corrects_position: number | null;
  };
  invoice_series: {
    id: string;
    division_id: string;
    kind: 'invoice' | 'credit note' | 'receipt';
    prefix: string;
    last_number: number;
  };
  invoice_standing: {
    invoice_id: string;
    settled_minor: number;
    mailed_at: Instant | null;
    ledger_at: Instant | null;
    ledger_id: string | null;
    undelivered_at: Instant | null;
  };
  invoice_tax: {
    invoice_id: string;
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
    promise_id: string | null;
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
    source_id: string;
    at: Instant;
    sender: string;
    subject: string;
    reason: string;
    rule_id: string | null;
    ticket_id: string | null;
    ended_at: Instant | null;
    ended_by: string | null;
  };
  mail_rule: {
    id: string;
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
    category_id: string | null;
    desk_id: string | null;
    client_id: string | null;
    asset_id: string | null;
    archived_at: Instant | null;
    version: number;
  };
  mail_source: {
    id: string;
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
    id: string;
    umbrella_id: string;
    at: Instant;
    person_id: string | null;
    text: string;
    asks: boolean;
  };
  membership: {
    id: string;
    umbrella_id: string;
    ticket_id: string;
    joined_at: Instant;
    joined_by: string | null;
    was: unknown;
    ended_at: Instant | null;
    ended_by: 'detached' | 'resolved' | null;
  };
  message: {
    id: string;
    ticket_id: string;
    at: Instant;
    direction: 'in' | 'out' | 'note';
    visibility: 'public' | 'inside';
    author_person_id: string | null;
    author_contact_id: string | null;
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
    source_id: string | null;
    leaves_at: Instant | null;
    leaving_since: Instant | null;
    left_at: Instant | null;
    taken_back_at: Instant | null;
    trouble: string | null;
    call_outcome: CallOutcome | null;
    thanks: boolean;
    seq: number;
    update_id: string | null;
    from_ticket_id: string | null;
    third_party: string | null;
    notice: MessageWire['notice'] | null;
    left_out: MessageWire['leftOut'];
    deliveries: unknown;
    undelivered_at: Instant | null;
  };
  minutes_here: {
    person_id: string;
    day: LocalDate;
    minutes: number;
    last_minute: Instant;
  };
  notice: {
    id: string;
    person_id: string;
    at: Instant;
    text: string;
    ticket_id: string | null;
    seen_at: Instant | null;
    urgent: boolean;
  };
  on_call: {
    id: string;
    person_id: string;
    starts_at: Instant;
    ends_at: Instant;
  };
  on_call_settings: {
    id: number;
    after_messages: number;
    again_minutes: number;
  };
  opening_set: {
    id: string;
    ticket_id: string;
    made_by: string;
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
    payload: unknown;
    at: Instant;
    division_id: string | null;
    ticket_id: string | null;
    client_id: string | null;
    person_id: string | null;
  };
  outbox_position: {
    id: number;
    last_seq: number;
  };
  outside_appointment: {
    calendar_id: string;
    uid: string;
    starts_at: Instant;
    ends_at: Instant;
    summary: string;
  };
  outside_calendar: {
    id: string;
    person_id: string;
    name: string;
    address: string | null;
    body: string | null;
    etag: string | null;
    made_at: Instant;
    read_at: Instant | null;
    trouble: string | null;
  };
  overrun: {
    booking_id: string;
    collides_with: string;
    found_at: Instant;
    settled_at: Instant | null;
  };
  own_condition: {
    id: string;
    name: string;
    kinds: readonly string[];
    moves: readonly string[];
    rule: unknown;
    archived_at: Instant | null;
    version: number;
  };
  own_field: {
    id: string;
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
    id: string;
    name: string;
    stands_for: string;
    archived_at: Instant | null;
    version: number;
  };
  own_status: {
    id: string;
    name: string;
    stands_for: 'queued' | 'underway' | 'on hold';
    waits_for: 'client' | 'supplier' | 'change window' | null;
    position: number;
    archived_at: Instant | null;
    version: number;
  };
  password_reset: {
    id: string;
    person_id: string;
    nonce: string;
    token_hash: Buffer;
    made_at: Instant;
    made_by: string | null;
    used_at: Instant | null;
  };
  payment: {
    id: string;
    client_id: string | null;
    at: Instant;
    received_on: LocalDate;
    amount_minor: number;
    currency: Currency;
    source: 'ledger' | 'by hand';
    external_id: string | null;
    reference: string;
  };
  person: {
    id: string;
    name: string;
    email: string;
    password_hash: string;
    role: AccessRole;
    grade_id: string | null;
    team_id: string | null;
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
    person_id: string;
    division_id: string;
    role: string | null;
  };
  person_hours: {
    person_id: string;
    week: unknown;
  };
  person_skill: {
    person_id: string;
    skill_id: string;
    level: number;
  };
  presence: {
    ticket_id: string;
    person_id: string;
    seen_at: Instant;
    writing: boolean;
  };
  promise: {
    id: string;
    name: string;
  };
  promise_version: {
    id: string;
    promise_id: string;
    version: number;
    targets: unknown;
    created_at: Instant;
  };
  proposed_dismissed: {
    person_id: string;
    key: string;
    at: Instant;
  };
  provider: {
    id: number;
    name: string;
    zone: string;
    currency: Currency;
    seller: Seller;
    calendar_id: string;
    promise_version_id: string;
    mail_from: string;
    holiday_region: string | null;
  };
  rate_rule: {
    id: string;
    level: 'contract' | 'client' | 'default';
    client_id: string | null;
    grade_id: string | null;
    activity_id: string | null;
    band: TimeBand | null;
    rate: string;
    valid_from: LocalDate;
    valid_to: LocalDate | null;
  };
  request_form: {
    id: string;
    name: string;
    path: string;
    intro: string;
    kind: string | null;
    category_id: string | null;
    fields: readonly string[];
    archived_at: Instant | null;
    version: number;
  };
  routine: {
    id: string;
    name: string;
    template_id: string;
    client_id: string;
    contact_id: string;
    rule: string;
    starts_on: LocalDate;
    minute: number;
    next_at: Instant | null;
    archived_at: Instant | null;
    version: number;
  };
  routine_turn: {
    routine_id: string;
    at: Instant;
    ticket_id: string | null;
    trouble: string | null;
  };
  saved_view: {
    id: string;
    list: string;
    person_id: string;
    name: string;
    query: string;
    at: Instant;
    reach: 'own' | 'team' | 'all';
  };
  schedule_feed: {
    person_id: string;
    made_at: Instant;
    nonce: string;
    token_hash: Buffer;
  };
  session: {
    sid: string;
    sess: unknown;
    expire: Instant;
  };
  shift: {
    person_id: string;
    day: LocalDate;
    hours: readonly string[];
    note: string | null;
  };
  sign_in: {
    id: number;
    at: Instant;
    email: string;
    person_id: string | null;
    way: string;
    ok: boolean;
    address: string | null;
    tried_at: Instant;
  };
  site: {
    id: string;
    client_id: string;
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
    id: string;
    name: string;
  };
  status_link: {
    ticket_id: string;
    made_at: Instant;
    nonce: string;
    token_hash: Buffer;
  };
  team: {
    id: string;
    name: string;
    position: number;
  };
  third_party: {
    id: string;
    name: string;
    address: string;
  };
  ticket: {
    id: string;
    division_id: string;
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
    client_id: string | null;
    contact_id: string | null;
    asset_id: string | null;
    desk_id: string | null;
    assignee_id: string | null;
    sender_email: string | null;
    sender_name: string | null;
    threading_why: unknown;
    linked_ticket_id: string | null;
    promise_version_id: string;
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
    umbrella_id: string | null;
    category_id: string | null;
    line: 'first' | 'second' | null;
    merged_into_id: string | null;
    look_since: Instant | null;
    look_at: string | null;
    no_fee_at: Instant | null;
    fields: unknown;
    own_status_id: string | null;
    routine_id: string | null;
    request_form_id: string | null;
    own_kind_id: string | null;
    needs_visit: boolean;
    look_is: 'third party' | 'not delivered' | null;
  };
  ticket_clock: {
    ticket_id: string;
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
  ticket_fact: {
    id: number;
    ticket_id: string;
    at: Instant;
    fact: string;
    detail: unknown;
    written_at: Instant;
  };
  ticket_fee: {
    ticket_id: string;
    fee_id: string;
    quantity: number;
    state: 'agreed' | 'asked' | 'refused';
    charge_id: string | null;
    result: 'success' | 'failed' | null;
    note: string | null;
    set_at: Instant;
    set_by: string | null;
  };
  ticket_relation: {
    one_id: string;
    other_id: string;
    at: Instant;
    by_person: string | null;
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
    id: string;
    name: string;
    subject: string;
    text: string;
    kind: string | null;
    impact: string | null;
    urgency: string | null;
    category_id: string | null;
    desk_id: string | null;
    line: string | null;
    checklist: readonly string[];
    archived_at: Instant | null;
    version: number;
  };
  time_complete: {
    person_id: string;
    up_to: LocalDate;
    declared_at: Instant;
  };
  time_decision: {
    id: number;
    entry_id: string | null;
    expense_id: string | null;
    at: Instant;
    who: 'person' | 'contact' | 'job' | 'rule' | 'system' | 'nobody';
    who_id: string | null;
    who_name: string;
    decision: 'approve' | 'return' | 'take back' | 'change';
    remark: string | null;
    was: unknown;
  };
  time_entry: {
    id: string;
    person_id: string;
    client_id: string | null;
    starts_at: Instant;
    ends_at: Instant;
    minutes: number;
    grade_id: string;
    activity_id: string;
    note: string | null;
    billable: boolean;
    reason: string | null;
    removed_at: Instant | null;
    version: number;
    booking_id: string | null;
    approval: 'open' | 'approved' | 'returned';
    corrects: string | null;
    corrected_at: Instant | null;
    corrected_from: number | null;
    distance: string | null;
    reimbursed_on: LocalDate | null;
    inside_note: string | null;
    distance_unit: 'km' | 'miles' | null;
    distance_rate: string | null;
    distance_paid_back: string | null;
    work_id: string;
    work_kind: Rows['work']['kind'];
    ticket_id: string | null;
  };
  time_off: {
    id: string;
    person_id: string;
    starts_at: Instant;
    ends_at: Instant;
    reason: string;
    absence_id: string | null;
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
    id: string;
    person_id: string;
    started_at: Instant;
    running_since: Instant | null;
    counted_seconds: number;
    work_id: string;
    work_kind: Rows['work']['kind'];
    ticket_id: string | null;
  };
  travel_time: {
    place_a: string;
    place_b: string;
    minutes: number;
    source: 'by hand' | 'logged';
    set_at: Instant;
    person_id: string | null;
  };
  upload: {
    id: string;
    ticket_id: string;
    person_id: string;
    at: Instant;
    name: string;
    media_type: string;
    bytes: number;
    blob: string;
  };
  waiver: {
    id: number;
    ticket_id: string;
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
    id: string;
    kind: 'ticket' | 'internal work' | 'project task';
  };
  work_facts: {
    id: string;
    kind: Rows['work']['kind'];
    number: number | null;
    subject: string;
    division_id: string | null;
    client_id: string | null;
    contact_id: string | null;
    site_id: string | null;
    category_id: string | null;
    desk_id: string | null;
    assignee_id: string | null;
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
