import type { DecimalText } from '../../ground';
import type { Allowance, CoverRule } from '../cover';
import type { RecurringLine } from '../recurring';

export const PRESETS = [
  'everything covered',
  'hours each month',
  'money each month',
  'tickets each month',
  'per seat',
  'per asset',
  'prepaid hours',
  'by the hour',
] as const;
/** What a contract begins as; it only fills in what can be changed afterwards. */
export type Preset = (typeof PRESETS)[number];

/** What is typed beside a preset: how much work, in hours, money or tickets, and the price of a month. */
export interface PresetFigures {
  readonly grant: DecimalText | null;
  readonly price: DecimalText | null;
}

export interface PresetParts {
  readonly allowance: Pick<Allowance, 'name' | 'measure' | 'each'> | null;
  /** Whether all work is covered by it. */
  readonly covers: Pick<CoverRule, 'includesFees'> | null;
  readonly line: (Pick<RecurringLine, 'counted'> & { readonly name: string }) | null;
  /** What must be typed for it. */
  readonly asks: readonly (keyof PresetFigures)[];
}

const flat = (name: string) => ({ counted: 'flat' as const, name });

export const PRESET_PARTS: Readonly<Record<Preset, PresetParts>> = {
  'everything covered': {
    allowance: { name: 'All work', measure: 'unlimited', each: 'each period' },
    covers: { includesFees: true },
    line: flat('Support'),
    asks: ['price'],
  },
  'hours each month': {
    allowance: { name: 'Hours', measure: 'hours', each: 'each period' },
    covers: { includesFees: false },
    line: flat('Support hours'),
    asks: ['grant', 'price'],
  },
  'money each month': {
    allowance: { name: 'Work', measure: 'money', each: 'each period' },
    covers: { includesFees: false },
    line: flat('Support'),
    asks: ['grant', 'price'],
  },
  'tickets each month': {
    allowance: { name: 'Tickets', measure: 'incidents', each: 'each period' },
    covers: { includesFees: false },
    line: flat('Support tickets'),
    asks: ['grant', 'price'],
  },
  'per seat': {
    allowance: { name: 'All work', measure: 'unlimited', each: 'each period' },
    covers: { includesFees: true },
    line: { counted: 'seat', name: 'Support per seat' },
    asks: ['price'],
  },
  'per asset': {
    allowance: { name: 'All work', measure: 'unlimited', each: 'each period' },
    covers: { includesFees: true },
    line: { counted: 'asset', name: 'Support per asset' },
    asks: ['price'],
  },
  'prepaid hours': {
    allowance: { name: 'Prepaid hours', measure: 'hours', each: 'once' },
    covers: { includesFees: false },
    line: null,
    asks: ['grant', 'price'],
  },
  'by the hour': { allowance: null, covers: null, line: null, asks: [] },
};
