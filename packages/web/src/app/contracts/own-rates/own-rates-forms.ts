import { computed, inject } from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import { catchError, map, of } from 'rxjs';
import {
  contractRoutes,
  type ContractWire,
  type OwnRateForm,
  ownRateSchema,
  ownRatesRoutes,
  type OwnRoundingForm,
  ownRoundingSchema,
  ROUNDING_MODES,
} from '@core/contracts';
import { type Id, TIME_BANDS } from '@core/ground';
import { houseRoutes } from '@core/house';
import { Api } from '../../shell/api';
import type { Option } from '../../ui/field';
import type { Line, RecordForm } from '../../ui/record-form';

const plainly = (values: readonly string[]): Option[] => values.map((value) => ({ value, label: value }));
const MODE_LABELS = { up: 'up', nearest: 'to the nearest', down: 'down' };

/** A contract's rates as they are sent. */
export function ratesOf({ rates }: ContractWire): OwnRateForm[] {
  return rates.map(({ says: _, ...rate }): OwnRateForm => rate);
}

export function roundingsOf({ roundings }: ContractWire): OwnRoundingForm[] {
  return roundings.map(({ says: _, ...rounding }): OwnRoundingForm => rounding);
}

/** The list with one put at a place, or at its end. */
const withAt = <T>(all: readonly T[], at: number, one: T): T[] => Object.assign([...all], { [at]: one });

/** The forms of a contract's own rates and rounding; called where injection is possible. */
export function ownRatesForms() {
  const api = inject(Api);
  const house = toSignal(api.call(houseRoutes.getHouse, {}).pipe(catchError(() => of(undefined))));
  const stored = (contractId: Id<'contract'>) => api.call(contractRoutes.getContract, { params: { contractId } });
  const named = (all: readonly { readonly id: string; readonly name: string }[] | undefined): Option[] =>
    (all ?? []).map(({ id, name }) => ({ value: id, label: name }));
  const activity = computed((): Line => ({
    name: 'activityId',
    label: 'Activity',
    kind: 'choice',
    none: 'any',
    options: named(house()?.activities),
  }));
  return {
    rateLines: computed((): readonly Line[] => [
      { name: 'gradeId', label: 'Grade', kind: 'choice', none: 'any', options: named(house()?.grades) },
      activity(),
      { name: 'band', label: 'Time band', kind: 'choice', none: 'any', options: plainly(TIME_BANDS) },
      { name: 'rate', label: 'Rate an hour', kind: 'money' },
      { name: 'from', label: 'First day', kind: 'date' },
      { name: 'lastDay', label: 'Last day, if any', kind: 'date' },
    ]),
    rate: (c: ContractWire, at: number): RecordForm<typeof ownRateSchema> => ({
      schema: ownRateSchema,
      initial: ratesOf(c)[at] ?? { gradeId: null, activityId: null, band: null, rate: '', from: c.startsOn, lastDay: null },
      draft: `rate.${c.id}.${at}`,
      does: 'Save',
      version: c.version,
      save: (body, version) =>
        api.call(ownRatesRoutes.setRates, {
          params: { contractId: c.id },
          version: version!,
          body: { rates: withAt(ratesOf(c), at, body) },
        }),
      stored: () => stored(c.id).pipe(map((now) => ({ ...ratesOf(now)[at], version: now.version }))),
    }),
    roundingLines: computed((): readonly Line[] => [
      { ...activity(), none: 'all others' },
      { name: 'mode', label: 'Rounded', kind: 'choice', options: ROUNDING_MODES.map((value) => ({ value, label: MODE_LABELS[value] })) },
      { name: 'increment', label: 'To whole steps of, minutes', kind: 'number' },
      { name: 'minimum', label: 'At least, minutes', kind: 'number' },
    ]),
    rounding: (c: ContractWire, at: number): RecordForm<typeof ownRoundingSchema> => ({
      schema: ownRoundingSchema,
      initial: roundingsOf(c)[at] ?? { activityId: null, mode: 'up', increment: 15, minimum: 15 },
      draft: `rounding.${c.id}.${at}`,
      does: 'Save',
      version: c.version,
      save: (body, version) =>
        api.call(ownRatesRoutes.setRoundings, {
          params: { contractId: c.id },
          version: version!,
          body: { roundings: withAt(roundingsOf(c), at, body) },
        }),
      stored: () => stored(c.id).pipe(map((now) => ({ ...roundingsOf(now)[at], version: now.version }))),
    }),
  };
}
