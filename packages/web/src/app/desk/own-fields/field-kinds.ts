import type { FieldKind } from '@core/desk';
import type { FieldKind as InputKind, Option } from '../../ui/field';

/** What each kind of own field is filled with. */
export const FIELD_INPUTS: Readonly<Record<FieldKind, InputKind>> = {
  text: 'text',
  number: 'number',
  choice: 'choice',
  date: 'date',
  'yes/no': 'choice',
  person: 'choice',
  asset: 'choice',
};
export const YES_NO: readonly Option[] = [
  { value: 'yes', label: 'yes' },
  { value: 'no', label: 'no' },
];
