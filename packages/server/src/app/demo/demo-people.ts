import type { AccessRole } from '@core/ground';

export interface DemoPerson {
  readonly name: string;
  readonly role: AccessRole;
  readonly grade?: 'engineer' | 'senior engineer' | 'architect';
  readonly team?: string;
}

/** Everybody of Pellworth Harbour Systems. */
export const DEMO_PEOPLE: readonly DemoPerson[] = [
  { name: 'Aoife Brannigan', role: 'service manager', grade: 'senior engineer', team: 'First line' },
  { name: 'Tomasz Wieland', role: 'dispatcher', grade: 'engineer', team: 'First line' },
  { name: 'Ngozi Adeyemi-Clarke', role: 'billing' },
  { name: 'Leif Sandvik', role: 'account manager' },
  { name: 'Hanna Lindqvist', role: 'administrator', grade: 'architect', team: 'Second line' },
  { name: 'Marisol Quintero', role: 'technician', grade: 'engineer', team: 'First line' },
  { name: 'Deepa Raghunathan', role: 'technician', grade: 'senior engineer', team: 'First line' },
  { name: 'Fionn Hartigan', role: 'technician', grade: 'engineer', team: 'First line' },
  { name: 'Sora Minegishi', role: 'technician', grade: 'engineer', team: 'First line' },
  { name: 'Odalys Figueroa', role: 'technician', grade: 'engineer', team: 'First line' },
  { name: 'Yusuf Demirel', role: 'technician', grade: 'architect', team: 'Second line' },
  { name: 'Ines Valadares', role: 'technician', grade: 'senior engineer', team: 'Second line' },
  { name: 'Callum Strachan', role: 'technician', grade: 'engineer', team: 'Second line' },
  { name: 'Piotr Zaleski', role: 'technician', grade: 'senior engineer', team: 'Second line' },
];

/** Technicians who stand on the dispatch view: all who are technicians, and the administrator who helps out. */
export function isDemoTechnician(person: DemoPerson): boolean {
  return person.role === 'technician' || person.name === 'Hanna Lindqvist';
}

export function demoEmail(name: string): string {
  return `${name.toLowerCase().replaceAll(' ', '.')}@pellworth.example`;
}

export const DEMO_TEAMS = ['First line', 'Second line'] as const;
export const DEMO_DESKS = [
  { name: 'Support', letter: 's', team: 'First line' },
  { name: 'Projects', letter: 'p', team: 'Second line' },
  { name: 'Security', letter: 'y', team: 'Second line' },
  { name: 'Billing', letter: 'b', team: 'First line' },
  { name: 'Sales', letter: 'l', team: 'First line' },
] as const;
