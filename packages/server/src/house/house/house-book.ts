import {
  type ClosingBook,
  type ClosingCheck,
  type Kind,
  type OwnCondition,
  type PromiseVersion,
  type PromiseTargets,
  PRIORITIES,
  type Priority,
  type PriorityMatrix,
  type Target,
  TARGET_CALENDARS,
  type TimedAction,
  type FieldRecord,
  type OwnField,
} from '@core/desk';
import {
  type Currency,
  type Id,
  parseCalendar,
  parseZone,
  replaceCalendar,
  ROUND_THE_CLOCK,
  type WeeklyCalendar,
  type WorkCalendar,
  type WrittenCalendar,
  type Zone,
} from '@core/ground';
import type { Tax } from '@core/goods';
import type { Activity, BandPricing, DistanceSettings } from '@core/time';
import type { Seller } from '@core/billing';
import type { Db } from '../../app/database';
import type { Row } from '../../app/rows';
import { plainDecimal } from '../../app/plain-decimal';
import { type Division, divisionOfHouse, readDivisions } from '../divisions/read-divisions';

/** A version of a promise as it is kept, with its name. */
export type KeptPromise = PromiseTargets & { readonly name: string; readonly version: number };

export interface KindRule {
  readonly kind: Kind;
  readonly offered: boolean;
  readonly promiseId: Id<'promise'> | null;
  readonly asksTime: readonly TimedAction[];
  readonly activityIds: readonly Id<'activity'>[];
}

export interface TicketSettings {
  readonly matrix: PriorityMatrix;
  /** What is asked before tickets move. */
  readonly closing: ClosingBook;
  /** Checks that members of an umbrella are asked as well. */
  readonly alwaysAsked: readonly ClosingCheck[];
  /** A resolved ticket closes after so many later dates with working hours. */
  readonly closeAfterDates: number;
  /** A reply within so many days of closing reopens; later it opens a new ticket. */
  readonly reopenDays: number;
}

/** At how many unanswered messages the on-call person is rung, and after how many minutes others are. */
export interface OnCallSettings {
  readonly afterMessages: number;
  readonly againMinutes: number;
}

export interface TimeSettings {
  readonly bands: BandPricing;
  /** What labour is taxed at. */
  readonly labourTax: Tax;
  /** What distances are measured in, charged at and paid back at. */
  readonly distance: DistanceSettings;
  /** Recorded time of more minutes makes a manager look twice. */
  readonly longMinutes: number;
}

export interface House {
  readonly provider: string;
  readonly zone: Zone;
  readonly currency: Currency;
  readonly seller: Seller;
  readonly mailFrom: string;
  readonly calendar: WeeklyCalendar;
  readonly promiseVersionId: Id<'promise_version'>;
  readonly fields: readonly OwnField[];
  /** What is set for kinds; a kind that is not here is offered, with the house's promise. */
  readonly kinds: readonly KindRule[];
  readonly tickets: TicketSettings;
  readonly onCall: OnCallSettings;
  readonly time: TimeSettings;
  /** Where the data is the demo's: how far its clock is from ours. */
  readonly demo: { readonly clockOffsetSeconds: number } | null;
}

/**
 * What holds for the whole provider, read once and kept: calendars stay the same objects, so that their
 * working-time index is built once.
 */
export class HouseBook {
  private calendars = new Map<string, WeeklyCalendar>();
  private calendarVersions = new Map<string, number>();
  private promises = new Map<string, KeptPromise>();
  /** Promises on real calendars, made once: a list of tickets asks for the same few again and again. */
  private promisesOn = new Map<string, PromiseVersion>();
  private known: House | undefined;
  private acts = new Map<string, Activity>();
  private divisions: ReadonlyMap<string, Division> = new Map();
  /** What the house does with mail that would open tickets, in the order it is asked. */
  mailRules: readonly Row<'mail_rule'>[] = [];

  async load(db: Db): Promise<void> {
    this.promisesOn = new Map();
    await this.loadCalendars(db);
    for (const row of await db('promise_version as v')
      .join('promise as p', 'p.id', 'v.promise_id')
      .select('v.id', 'v.version', 'v.targets', 'p.name'))
      this.promises.set(row.id, { ...(row.targets as PromiseTargets), name: row.name, version: row.version });
    for (const row of await db('activity'))
      this.acts.set(row.id, { id: row.id, name: row.name, rounding: row.rounding, pricing: row.pricing, callOutFee: row.call_out_fee });
    this.mailRules = await db('mail_rule').whereNull('archived_at').orderBy(['position', 'id']);
    const h = await db('provider').first();
    if (!h) return;
    const t = (await db('ticket_settings').first())!;
    const onCall = (await db('on_call_settings').first())!;
    const time = (await db('time_settings').first())!;
    const demo = await db('demo').first();
    const fields: OwnField[] = await db('own_field')
      .whereNull('archived_at')
      .orderBy('position')
      .select('id', 'on_record as on', 'name', 'kind', 'choices', 'shown', 'required', 'asked');
    const conditions: OwnCondition[] = await db('own_condition')
      .whereNull('archived_at')
      .orderBy('name')
      .select('id', 'name', 'kinds', 'moves', 'rule');
    const kinds = await db('kind_rule').select(
      'kind',
      'offered',
      'promise_id as promiseId',
      'asks_time as asksTime',
      'activity_ids as activityIds',
    );
    this.known = {
      provider: h.name,
      zone: parseZone(h.zone),
      currency: h.currency,
      seller: h.seller,
      mailFrom: h.mail_from,
      calendar: this.calendar(h.calendar_id),
      promiseVersionId: h.promise_version_id,
      fields,
      kinds,
      tickets: {
        matrix: t.priority_matrix,
        closing: { rules: t.closing_rules, conditions, fields: fields.filter((f) => f.on === 'ticket') },
        alwaysAsked: t.always_asked,
        closeAfterDates: t.close_after_dates,
        reopenDays: t.reopen_days,
      },
      onCall: { afterMessages: onCall.after_messages, againMinutes: onCall.again_minutes },
      time: {
        bands: time.band_pricing,
        labourTax: time.labour_tax,
        distance: { unit: time.distance_unit, rate: plainDecimal(time.distance_rate), paidBack: plainDecimal(time.distance_paid_back) },
        longMinutes: time.long_minutes,
      },
      demo: demo ? { clockOffsetSeconds: demo.clock_offset_seconds } : null,
    };
    this.divisions = await readDivisions(db, this.known);
  }

  /** A calendar that did not change stays the same object. */
  private async loadCalendars(db: Db): Promise<void> {
    const versions = await db('calendar_version').orderBy('version').select('calendar_id', 'written', 'until');
    for (const row of await db('calendar').select('id', 'version', 'written')) {
      if (this.calendarVersions.get(row.id) === row.version) continue;
      const before = versions.filter((v) => v.calendar_id === row.id);
      const parts = [...before.map((v) => v.written), row.written].map((w) => parseCalendar(w as WrittenCalendar));
      this.calendars.set(
        row.id,
        parts.reduce((earlier, next, i) => replaceCalendar(earlier, before[i - 1]!.until, next)),
      );
      this.calendarVersions.set(row.id, row.version);
    }
  }

  /** @throws where the database holds no provider yet */
  get house(): House {
    if (!this.known) throw new Error('The database holds no provider yet. Load the demo with npm start -- --reset.');
    return this.known;
  }

  get divisionIds(): readonly string[] {
    return [...this.divisions.keys()];
  }

  /** What a division has of its own, the rest from the house; all of the house where none is named. */
  division(id: string | null): Division {
    return (id === null ? undefined : this.divisions.get(id)) ?? divisionOfHouse(this.house);
  }

  /** The division that mail to one of these addresses is for, if one has such an address of its own. */
  divisionOfMail(addresses: readonly string[]): string | null {
    const own = [...this.divisions.values()].find(
      (d) => addresses.some((a) => a.toLowerCase() === d.mailFrom) && d.mailFrom !== this.house.mailFrom,
    );
    return own?.id ?? null;
  }

  /** The house's own fields on records of a kind. */
  fieldsOn(kind: FieldRecord): readonly OwnField[] {
    return this.house.fields.filter((f) => f.on === kind);
  }

  kindRule(kind: Kind): KindRule {
    return this.house.kinds.find((k) => k.kind === kind) ?? { kind, offered: true, promiseId: null, asksTime: [], activityIds: [] };
  }

  calendar(id: string): WeeklyCalendar {
    const calendar = this.calendars.get(id);
    if (!calendar) throw new Error(`unknown calendar ${id}`);
    return calendar;
  }

  /** What may be chosen on tickets of a kind, by id; empty where all may be. */
  activitiesOf(kind: Kind | 'unsorted'): readonly string[] {
    return kind === 'unsorted' ? [] : this.kindRule(kind).activityIds;
  }

  activity(id: string): Activity | undefined {
    return this.acts.get(id);
  }

  /** A promise version as it holds for a client: its targets on real calendars. */
  promise(versionId: string, clientCalendarId: Id<'calendar'> | null): PromiseVersion {
    const key = `${versionId} ${clientCalendarId}`;
    const known = this.promisesOn.get(key);
    if (known) return known;
    const stored = this.promises.get(versionId);
    if (!stored) throw new Error(`unknown promise version ${versionId}`);
    const promise = this.promiseOf(stored, clientCalendarId);
    this.promisesOn.set(key, promise);
    return promise;
  }

  /** Targets as they are kept, on real calendars. */
  promiseOf(stored: KeptPromise, clientCalendarId: Id<'calendar'> | null): PromiseVersion {
    const on: Record<(typeof TARGET_CALENDARS)[number], WorkCalendar> = {
      provider: this.house.calendar,
      client: clientCalendarId ? this.calendar(clientCalendarId) : this.house.calendar,
      'round the clock': ROUND_THE_CLOCK,
    };
    const target = (t: PromiseTargets['triage']): Target => ({ seconds: t.minutes * 60, calendar: on[t.on] });
    const each = (by: PromiseTargets['response']) =>
      Object.fromEntries(PRIORITIES.map((p) => [p, target(by[p])])) as Record<Priority, Target>;
    return {
      name: stored.name,
      version: stored.version,
      defaultPriority: stored.defaultPriority,
      triage: target(stored.triage),
      warnAt: stored.warnAt,
      response: each(stored.response),
      update: each(stored.update),
      resolution: each(stored.resolution),
    };
  }
}
