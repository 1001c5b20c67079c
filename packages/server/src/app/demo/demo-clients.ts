export interface DemoClient {
  readonly name: string;
  readonly domain: string;
  readonly prefix: string;
  readonly zone: string;
  readonly sites: readonly string[];
  readonly city: string;
  readonly contacts: number;
  readonly assets: number;
  /** How often they write, against the others. */
  readonly weight: number;
  readonly taxExempt?: boolean;
  readonly policy?: 'Strict replies' | 'Round the clock';
  readonly paymentDays: number;
  /** An engineer's rate an hour of their own. */
  readonly rate?: string;
  readonly slowToPay?: boolean;
  readonly titles: readonly string[];
  readonly country?: string;
}

/** The clients of the story; all made up. */
export const DEMO_CLIENTS: readonly DemoClient[] = [
  { name: 'Hollin Veterinary Group', domain: 'hollin.example', prefix: 'HV', zone: 'Europe/Dublin', city: 'Hollin', sites: ['Northgate surgery', 'Canal Row surgery', 'Fairgreen surgery'], contacts: 46, assets: 72, weight: 18, paymentDays: 30, titles: ['practice manager', 'veterinary nurse', 'receptionist', 'surgeon'] },
  { name: 'Brackwater Ferries', domain: 'brackwater.example', prefix: 'BF', zone: 'Europe/Dublin', city: 'Brackwater', sites: ['Harbour office', 'East terminal', 'West terminal', 'Workshop quay'], contacts: 52, assets: 96, weight: 22, paymentDays: 30, policy: 'Round the clock', titles: ['port clerk', 'terminal lead', 'purser', 'operations manager'] },
  { name: 'Ostrand Observatory Trust', domain: 'ostrand.example', prefix: 'OO', zone: 'America/New_York', city: 'Ostrand', sites: ['Ridge station', 'Visitor house'], contacts: 24, assets: 48, weight: 10, paymentDays: 45, titles: ['instrument scientist', 'night assistant', 'trust secretary'], country: 'US' },
  { name: 'Quillfeather Press', domain: 'quillfeather.example', prefix: 'QP', zone: 'Europe/Dublin', city: 'Pellworth', sites: ['Mill Lane', 'Bindery'], contacts: 28, assets: 44, weight: 11, paymentDays: 30, rate: '92', titles: ['editor', 'designer', 'rights manager'] },
  { name: 'Mirebank Schools', domain: 'mirebank.example', prefix: 'MS', zone: 'Europe/Dublin', city: 'Mirebank', sites: ['Upper school', 'Lower school', 'Sports hall'], contacts: 38, assets: 88, weight: 14, paymentDays: 30, titles: ['bursar', 'head of year', 'caretaker', 'librarian'] },
  { name: 'Saltmarsh Ceramics', domain: 'saltmarsh.example', prefix: 'SC', zone: 'Europe/Dublin', city: 'Saltmarsh', sites: ['Kiln house', 'Shop'], contacts: 12, assets: 14, weight: 6, paymentDays: 14, slowToPay: true, titles: ['owner', 'studio lead', 'shop assistant'] },
  { name: 'Larkspur Seed Co-op', domain: 'larkspur.example', prefix: 'LS', zone: 'Europe/Dublin', city: 'Larkspur', sites: ['Seed barn', 'Office'], contacts: 18, assets: 22, weight: 6, paymentDays: 30, titles: ['grower', 'dispatch lead', 'book-keeper'] },
  { name: 'Fennimore Dental Rooms', domain: 'fennimore.example', prefix: 'FD', zone: 'Europe/Dublin', city: 'Fennimore', sites: ['Harbour Street rooms'], contacts: 14, assets: 18, weight: 7, taxExempt: true, policy: 'Strict replies', paymentDays: 30, titles: ['dentist', 'hygienist', 'front desk'] },
  { name: 'Vantry Touring Orchestra', domain: 'vantry.example', prefix: 'VO', zone: 'Europe/Dublin', city: 'Vantry', sites: ['Rehearsal hall', 'New office'], contacts: 20, assets: 14, weight: 4, paymentDays: 30, titles: ['tour manager', 'librarian', 'orchestra manager'] },
  { name: 'Tallow & Wick Chandlery', domain: 'tallowwick.example', prefix: 'TW', zone: 'Europe/Dublin', city: 'Pellworth', sites: ['Quayside shop'], contacts: 8, assets: 4, weight: 2, paymentDays: 14, titles: ['owner', 'shop lead'] },
];

export const DEMO_FIRST_NAMES = ['Orla', 'Bram', 'Keziah', 'Rafe', 'Ilse', 'Maren', 'Osgar', 'Tilda', 'Niamh', 'Corvin', 'Petra', 'Lorcan', 'Saskia', 'Emrys', 'Dagny', 'Felix', 'Imelda', 'Jarek', 'Linnea', 'Magnus', 'Noor', 'Odhran', 'Philippa', 'Quentin', 'Rosalind', 'Stellan', 'Thea', 'Ulrich', 'Verity', 'Wilf'] as const;
export const DEMO_LAST_NAMES = ['Devane', 'Osei', 'Lund', 'Ashdown', 'Marchetti', 'Tarrant', 'Quillan', 'Beckwith', 'Corrigan', 'Dunmore', 'Eastlake', 'Farrow', 'Gantry', 'Hollis', 'Ibarra', 'Jessop', 'Kestrel', 'Lomax', 'Merrow', 'Norcross', 'Ottway', 'Penhale', 'Ruane', 'Sallow', 'Thorne', 'Umber', 'Varley', 'Wexcombe', 'Yarrow', 'Zeller'] as const;
export const DEMO_ASSETS = [
  { code: 'LAP', name: 'Laptop', make: 'Carrow 14' },
  { code: 'DSK', name: 'Desktop', make: 'Carrow Mini' },
  { code: 'PRN', name: 'Label printer', make: 'Stampwell L2' },
  { code: 'TIL', name: 'Till', make: 'Countright 5' },
  { code: 'TAB', name: 'Tablet', make: 'Slatewick 10' },
  { code: 'SRV', name: 'Server', make: 'Holdfast R4' },
  { code: 'SWI', name: 'Switch', make: 'Linkfield 24' },
  { code: 'PHN', name: 'Desk phone', make: 'Ringmere D' },
] as const;
export const DEMO_ITEMS = [
  ['CBL-0020', 'Network cable 2 m', 'Cables', '4.80', '1.90', 'net', '23'],
  ['CBL-0050', 'Network cable 5 m', 'Cables', '7.20', '2.80', 'net', '23'],
  ['CBL-USB1', 'Docking cable, braided', 'Cables', '19.90', '8.10', 'gross', '23'],
  ['LAP-C14', 'Laptop Carrow 14, 16 GB', 'Laptops', '1190', '942', 'net', '23'],
  ['LAP-C16', 'Laptop Carrow 16, 32 GB', 'Laptops', '1640', '1312', 'net', '23'],
  ['DOC-ST2', 'Docking station, two screens', 'Accessories', '189', '131', 'net', '23'],
  ['SCR-27', 'Screen 27 inch', 'Screens', '279', '204', 'net', '23'],
  ['SCR-ARM', 'Screen arm, desk clamp', 'Screens', '89', '52', 'net', '23'],
  ['PAD-THM', 'Thermal pads, set', 'Parts', '6.90', '2.10', 'net', '23'],
  ['SSD-1T', 'Solid-state drive 1 TB', 'Parts', '112', '74', 'net', '23'],
  ['RAM-16', 'Memory 16 GB', 'Parts', '68', '43', 'net', '23'],
  ['LBL-ROL', 'Label rolls, box of 12', 'Supplies', '38.40', '22.60', 'net', '23'],
  ['TNR-BLK', 'Toner black', 'Supplies', '84', '57', 'net', '23'],
  ['WAP-IN', 'Wireless access point, inside', 'Network', '164', '112', 'net', '23'],
  ['SWI-24', 'Switch Linkfield 24', 'Network', '398', '301', 'net', '23'],
  ['FWL-S', 'Firewall, small office', 'Network', '612', '470', 'net', '23'],
  ['BAT-UPS', 'Battery backup 900 VA', 'Power', '149', '101', 'net', '23'],
  ['PHN-D', 'Desk phone Ringmere D', 'Phones', '94', '66', 'net', '23'],
  ['TAB-S10', 'Tablet Slatewick 10', 'Tablets', '329', '262', 'net', '23'],
  ['CASE-S10', 'Tablet case, rubber', 'Tablets', '24.60', '9.80', 'gross', '23'],
  ['BOOK-PRN', 'Printed user guide', 'Print', '12', '7', 'net', '0'],
  ['ENR-INS', 'Energy-saving fitting, installed', 'Services', '75', '40', 'net', '13.5'],
] as const;
