import { computed, inject, type Signal } from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import { catchError, map, of } from 'rxjs';
import { clientRoutes } from '@core/clients';
import {
  allowanceFormSchema,
  type AllowanceWire,
  ANCHORED,
  anchorOf,
  blockFormSchema,
  contractFormSchema,
  contractRoutes,
  type ContractWire,
  type CoverRuleForm,
  coverFormSchema,
  FREQUENCIES,
  GRANTED,
  grantFormSchema,
  GRANTS,
  MEASURES,
  newContractSchema,
  periodOf,
  type Preset,
  PRESET_PARTS,
  PRESETS,
  RENEWALS,
} from '@core/contracts';
import { SORTED_KINDS } from '@core/desk';
import { parseLocalDate, TIME_BANDS } from '@core/ground';
import { houseRoutes } from '@core/house';
import { Api } from '../../shell/api';
import { Session } from '../../shell/session';
import { everyPage } from '../../ui/every-page';
import type { Option } from '../../ui/field';
import type { Line, RecordForm } from '../../ui/record-form';
import { isoDay } from '../../ui/time-format';
import { plainly } from './line-forms';

const asks = (what: 'grant' | 'price') => (values: Readonly<Record<string, unknown>>) =>
  PRESETS.includes(values['preset'] as Preset) && PRESET_PARTS[values['preset'] as Preset].asks.includes(what);

/** What measures are called where they are chosen. */
const MEASURE_LABELS: Readonly<Record<(typeof MEASURES)[number], string>> = {
  hours: 'hours',
  money: 'money',
  incidents: 'tickets',
  unlimited: 'no limit',
};

export const ALLOWANCE_FIELDS: readonly Line[] = [
  { name: 'name', label: 'Name' },
  { name: 'measure', label: 'Counts', kind: 'choice', options: MEASURES.map((value) => ({ value, label: MEASURE_LABELS[value] })) },
  { name: 'grant', label: 'How much', kind: 'money', when: (v) => v['measure'] !== 'unlimited' },
  { name: 'each', label: 'Granted', kind: 'choice', options: plainly(GRANTS) },
  { name: 'granted', label: 'Part of a period', kind: 'choice', options: plainly(GRANTED) },
  { name: 'carryDays', label: 'Carries over, days', kind: 'number' },
  { name: 'borrowPercent', label: 'Borrows of the next, percent', kind: 'number' },
];
export const AMEND_FIELDS: readonly Line[] = [
  { name: 'from', label: 'For periods that begin from', kind: 'date' },
  { name: 'grant', label: 'How much each period', kind: 'money' },
];
export const BLOCK_FIELDS: readonly Line[] = [
  { name: 'grant', label: 'How much: hours, money or tickets', kind: 'money' },
  { name: 'price', label: 'Price of all of it', kind: 'money' },
  { name: 'startsOn', label: 'First day', kind: 'date' },
  { name: 'lastDay', label: 'Last day, if it expires', kind: 'date' },
];
const RENEWAL_LABELS = { ends: 'it ends', 'goes on': 'it goes on by itself' };
const TERMS_FIELDS: readonly Line[] = [
  { name: 'name', label: 'Name' },
  { name: 'startsOn', label: 'First day', kind: 'date' },
  { name: 'lastDay', label: 'Last day, if any', kind: 'date' },
  {
    name: 'renewal',
    label: 'After its last day',
    kind: 'choice',
    options: RENEWALS.map((value) => ({ value, label: RENEWAL_LABELS[value] })),
  },
  { name: 'termMonths', label: 'For months', kind: 'number', when: (v) => v['renewal'] === 'goes on' },
  { name: 'noticeDays', label: 'Days of notice', kind: 'number' },
  { name: 'frequency', label: 'Allowances granted', kind: 'choice', options: plainly(FREQUENCIES) },
  { name: 'anchored', label: 'Periods begin with', kind: 'choice', options: plainly(ANCHORED) },
  { name: 'overageFactor', label: 'Overage factor', kind: 'money' },
  { name: 'preferred', label: 'Preferred where the client has several', kind: 'yes' },
  { name: 'purchaseOrder', label: 'Purchase order' },
  { name: 'notes', label: 'Notes', kind: 'lines', wide: true },
];

/** The form that draws up a contract; called where injection is possible. */
export function newContractForm(clientId: Signal<string>) {
  const [api, session] = [inject(Api), inject(Session)];
  const clients = toSignal(
    everyPage((page) => api.call(clientRoutes.listClients, { query: page })).pipe(
      map((a) => a.rows),
      catchError(() => of([])),
    ),
    { initialValue: [] },
  );
  const today = isoDay(session.now(), session.zone);
  return {
    lines: computed((): readonly Line[] => [
      { name: 'clientId', label: 'Client', kind: 'choice', options: clients().map((c) => ({ value: c.id, label: c.name })) },
      { name: 'name', label: 'Name' },
      { name: 'preset', label: 'Begin with', kind: 'choice', options: plainly(PRESETS) },
      { name: 'grant', label: 'How much: hours, money or tickets', kind: 'money', when: asks('grant') },
      { name: 'price', label: 'Price of a month, or of the first block', kind: 'money', when: asks('price') },
      { name: 'startsOn', label: 'First day', kind: 'date' },
      { name: 'lastDay', label: 'Last day, if any', kind: 'date' },
    ]),
    form: computed((): RecordForm<typeof newContractSchema> => ({
      schema: newContractSchema,
      initial: { clientId: clientId(), name: '', preset: '', grant: null, price: null, startsOn: today, lastDay: null },
      draft: `new-contract.${clientId()}`,
      does: 'Draw it up',
      save: (body) => api.call(contractRoutes.createContract, { body }),
    })),
  };
}

/** The forms of a contract's page; called where injection is possible. */
export function contractForms() {
  const [api, session] = [inject(Api), inject(Session)];
  const today = isoDay(session.now(), session.zone);
  const stored = (c: ContractWire) => () => api.call(contractRoutes.getContract, { params: { contractId: c.id } });
  return {
    termsLines: TERMS_FIELDS,
    terms: (c: ContractWire): RecordForm<typeof contractFormSchema> => ({
      schema: contractFormSchema,
      initial: Object.fromEntries(TERMS_FIELDS.map(({ name }) => [name, c[name as keyof ContractWire]])),
      draft: `contract.${c.id}`,
      does: 'Save',
      version: c.version,
      save: (body, version) => api.call(contractRoutes.editContract, { params: { contractId: c.id }, version: version!, body }),
      stored: stored(c),
    }),
    addAllowance: (c: ContractWire): RecordForm<typeof allowanceFormSchema> => ({
      schema: allowanceFormSchema,
      initial: { name: '', measure: 'hours', grant: '0', each: 'each period', granted: 'whole', carryDays: 0, borrowPercent: 0 },
      draft: `new-allowance.${c.id}`,
      does: 'Add it',
      save: (body) => api.call(contractRoutes.addAllowance, { params: { contractId: c.id }, body }),
    }),
    editAllowance: (c: ContractWire, allowance: AllowanceWire): RecordForm<typeof allowanceFormSchema> => ({
      schema: allowanceFormSchema,
      initial: { ...allowance },
      draft: `allowance.${allowance.id}`,
      does: 'Save',
      version: c.version,
      save: (body, version) =>
        api.call(contractRoutes.editAllowance, { params: { contractId: c.id, allowanceId: allowance.id }, version: version!, body }),
      stored: () => stored(c)().pipe(map((now) => ({ ...now.allowances.find((a) => a.id === allowance.id), version: now.version }))),
    }),
    amend: (c: ContractWire, allowance: AllowanceWire): RecordForm<typeof grantFormSchema> => ({
      schema: grantFormSchema,
      initial: { from: nextPeriod(c, today), grant: allowance.later.at(-1)?.grant ?? allowance.grant },
      draft: `amend.${allowance.id}`,
      does: 'Let it hold from then',
      save: (body) =>
        api
          .call(contractRoutes.setGrant, { params: { contractId: c.id, allowanceId: allowance.id }, body })
          .pipe(map(() => ({ id: allowance.id }))),
    }),
    block: (c: ContractWire, allowance: AllowanceWire): RecordForm<typeof blockFormSchema> => ({
      schema: blockFormSchema,
      initial: { grant: allowance.blocks.at(-1)?.grant ?? '', price: '', startsOn: today < c.startsOn ? c.startsOn : today, lastDay: null },
      draft: `block.${allowance.id}`,
      does: 'Sell it',
      save: (body) => api.call(contractRoutes.addBlock, { params: { contractId: c.id, allowanceId: allowance.id }, body }),
    }),
    cover: (c: ContractWire, at: number): RecordForm<typeof coverFormSchema> => ({
      schema: coverFormSchema,
      initial: c.cover[at]
        ? { ...c.cover[at] }
        : {
            gradeIds: [],
            activityIds: [],
            bands: [],
            deskIds: [],
            kinds: [],
            startsOn: null,
            lastDay: null,
            allowanceId: c.allowances[0]?.id ?? null,
            cap: null,
            overageFactor: null,
            includesFees: false,
          },
      draft: `cover.${c.id}.${at}`,
      does: 'Save',
      version: c.version,
      save: (body, version) => {
        const rules = rulesOf(c);
        rules.splice(at, 1, { ...body, id: c.cover[at]?.id ?? null });
        return api.call(contractRoutes.setCover, { params: { contractId: c.id }, version: version!, body: { rules } });
      },
      stored: () => stored(c)().pipe(map((now) => ({ ...now.cover[at], version: now.version }))),
    }),
  };
}

/** The first day of the next period of a contract, from which something is amended as a rule. */
function nextPeriod({ frequency, anchored, startsOn }: ContractWire, today: string): string {
  const anchor = anchorOf(anchored, parseLocalDate(startsOn));
  return periodOf({ frequency, anchor }, parseLocalDate(today > startsOn ? today : startsOn)).to;
}

/** The rules of a contract as they are sent. */
export function rulesOf({ cover }: ContractWire): CoverRuleForm[] {
  return cover.map(({ says: _, ...rule }): CoverRuleForm => rule);
}

/** The lines of the form of a rule of cover; called where injection is possible. */
export function coverLines(contract: Signal<ContractWire>): Signal<readonly Line[]> {
  const house = toSignal(
    inject(Api)
      .call(houseRoutes.getHouse, {})
      .pipe(catchError(() => of(undefined))),
  );
  const named = (all: readonly { readonly id: string; readonly name: string }[] | undefined): Option[] =>
    (all ?? []).map(({ id, name }) => ({ value: id, label: name }));
  return computed(() => [
    { name: 'gradeIds', label: 'Grades; none means all', kind: 'many', options: named(house()?.grades) },
    { name: 'activityIds', label: 'Activities; none means all', kind: 'many', options: named(house()?.activities) },
    { name: 'bands', label: 'Time bands; none means all', kind: 'many', options: plainly(TIME_BANDS) },
    { name: 'deskIds', label: 'Desks; none means all', kind: 'many', options: named(house()?.desks) },
    { name: 'kinds', label: 'Kinds of ticket; none means all', kind: 'many', options: plainly(SORTED_KINDS) },
    { name: 'startsOn', label: 'Holds from, if not from the start', kind: 'date' },
    { name: 'lastDay', label: 'Last day, if any', kind: 'date' },
    { name: 'allowanceId', label: 'Draws on', kind: 'choice', none: 'nothing: all is billed', options: named(contract().allowances) },
    { name: 'cap', label: 'At most in a period, hours or money', kind: 'money' },
    { name: 'overageFactor', label: 'Overage factor', kind: 'money', placeholder: "the contract's" },
    { name: 'includesFees', label: 'Call-outs are covered with it', kind: 'yes' },
  ]);
}
