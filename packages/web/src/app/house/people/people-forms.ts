import { map } from 'rxjs';
import { peopleRoutes, personPlaceSchema, shiftFormSchema, type PersonTimeWire } from '@core/house';
import type { Api } from '../../shell/api';
import type { Line, RecordForm } from '../../ui/record-form';

/** A form with its fields, as the one form for records takes it. */
export interface PersonForm {
  readonly form: RecordForm;
  readonly lines: readonly Line[];
}

const WEEKDAYS = ['Monday', 'Tuesday', 'Wednesday', 'Thursday', 'Friday', 'Saturday', 'Sunday'].map((label, i) => ({
  value: String(i + 1),
  label,
}));

/** Other hours on some dates: a late shift, a weekend, a free day instead. */
export function shiftForm(api: Api, { id }: PersonTimeWire): PersonForm {
  return {
    form: {
      schema: shiftFormSchema,
      initial: { hours: '', note: null, weekdays: ['1', '2', '3', '4', '5'] },
      draft: `shifts-${id}`,
      does: 'Set these dates',
      save: (body) => api.call(peopleRoutes.setShifts, { params: { personId: id }, body }).pipe(map(() => ({ id }))),
    },
    lines: [
      { name: 'from', label: 'From', kind: 'date' },
      { name: 'to', label: 'To, included', kind: 'date' },
      { name: 'hours', label: 'Hours; none is a free day', placeholder: '14:00-22:00' },
      { name: 'note', label: 'Note', placeholder: 'late shift' },
      { name: 'weekdays', label: 'On', kind: 'many', options: WEEKDAYS, wide: true },
    ],
  };
}

/** Where the day begins, and whose public holidays hold. @param houseRegion what holds where nothing is said */
export function placeForm(api: Api, { id, place }: PersonTimeWire, houseRegion: string | null): PersonForm {
  return {
    form: {
      schema: personPlaceSchema,
      initial: place,
      draft: `place-${id}`,
      does: 'Save',
      save: (body) => api.call(peopleRoutes.setPersonPlace, { params: { personId: id }, body }).pipe(map(() => ({ id }))),
    },
    lines: [
      { name: 'homeName', label: 'The day begins at', placeholder: 'the house, a depot' },
      { name: 'region', label: 'Public holidays of', placeholder: houseRegion ?? 'IE, US-NY' },
      { name: 'latitude', label: 'Degrees north', placeholder: '52.26' },
      { name: 'longitude', label: 'Degrees east', placeholder: '-7.11' },
    ],
  };
}
