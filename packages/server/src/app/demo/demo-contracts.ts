import type { LineForm, NewContract } from '@core/contracts';

type Counted = Pick<LineForm, 'name' | 'price' | 'counted' | 'minimum'> & Partial<Pick<LineForm, 'frequency' | 'maximum'>>;

/** What was agreed with a client of the demo. */
export interface DemoContract {
  readonly client: string;
  readonly form: Pick<NewContract, 'name' | 'preset' | 'grant' | 'price'>;
  /** Lines beside that of its preset, with who or what is on them: all of the client's but for the first so many. */
  readonly lines?: readonly (Counted & { readonly leaves?: number })[];
  /** Days after the story's day on which it ends. */
  readonly endsIn?: number;
  readonly allowance?: { readonly carryDays: number; readonly borrowPercent: number };
  readonly draft?: boolean;
  /** It holds all the small work of every day too. */
  readonly smallWork?: boolean;
}

const seats = (name: string, price: string, leaves = 0) => ({ name, price, counted: 'seat', minimum: null, leaves }) as const;
const assets = (name: string, price: string, minimum: number | null = null) => ({ name, price, counted: 'asset', minimum }) as const;
const flat = (name: string, price: string) => ({ name, price, counted: 'flat', minimum: null }) as const;
const byTheHour = (name: string) => ({ name, preset: 'by the hour', grant: null, price: null }) as const;

/** The contract whose allowance is nearly used up on the story's day, and the one of whose people some are odd. */
export const NEARLY_USED = 'Help desk hours';
export const SEATS_TO_LOOK_AT = 'Workplace';

/** Whose work is covered also where that of one client alone is. */
export const COVERED_ALWAYS = 'Ostrand';

/** Sixteen contracts; Saltmarsh has none, and Vantry none that covers work. */
export const DEMO_CONTRACTS: readonly DemoContract[] = [
  {
    client: 'Ostrand',
    form: { name: 'Support hours', preset: 'hours each month', grant: '12', price: '980' },
    allowance: { carryDays: 45, borrowPercent: 25 },
  },
  { client: 'Hollin', form: byTheHour('Workplaces'), lines: [seats(SEATS_TO_LOOK_AT, '32', 2)] },
  { client: 'Mirebank', form: byTheHour('Classroom devices'), lines: [assets('Device care', '6.5', 30)] },
  { client: 'Larkspur', form: byTheHour('Monitoring'), lines: [flat('Monitoring', '145')], endsIn: 50 },
  { client: 'Hollin', form: { name: 'Surgery support', preset: 'everything covered', grant: null, price: '4450' }, smallWork: true },
  { client: 'Brackwater', form: { name: 'Round the clock', preset: 'everything covered', grant: null, price: '3900' }, smallWork: true },
  { client: 'Brackwater', form: byTheHour('Terminals'), lines: [assets('Terminal care', '14')] },
  { client: 'Quillfeather', form: { name: 'Press support', preset: 'money each month', grant: '1500', price: '1350' } },
  { client: 'Quillfeather', form: byTheHour('Backup'), lines: [flat('Backup', '210')] },
  { client: 'Mirebank', form: { name: 'Term support', preset: 'hours each month', grant: '140', price: '6300' }, smallWork: true },
  { client: 'Larkspur', form: { name: NEARLY_USED, preset: 'hours each month', grant: '8', price: '640' }, endsIn: 50 },
  { client: 'Fennimore', form: { name: 'Surgery tickets', preset: 'tickets each month', grant: '240', price: '5200' }, smallWork: true },
  { client: 'Fennimore', form: byTheHour('Phones'), lines: [seats('Phone', '9')] },
  { client: 'Vantry', form: byTheHour('On tour'), lines: [seats('Mailbox', '4.5')] },
  {
    client: 'Tallow',
    form: { ...byTheHour('Shop care'), preset: 'everything covered', price: '2160' },
    smallWork: true,
    lines: [{ ...flat('Licences', '480'), frequency: 'yearly' }],
  },
  {
    client: 'Larkspur',
    form: { name: 'Help desk from next year', preset: 'hours each month', grant: '10', price: '760' },
    draft: true,
  },
];

/** People of the client of that line who ask for nothing and have nothing, and are billed. */
export const NEVER_SEEN: readonly string[] = ['Oriel Fane', 'Pascoe Tolland', 'Wenna Lisle'];
