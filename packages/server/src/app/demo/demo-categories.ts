/** What tickets are about, in two levels, with the skill each asks for, and the topics of the story that are of it (by their first subject). */
export const DEMO_CATEGORIES: readonly {
  readonly name: string;
  readonly children: readonly { readonly name: string; readonly skill?: string; readonly topics: readonly string[] }[];
}[] = [
  {
    name: 'Devices',
    children: [
      {
        name: 'Printing and scanning',
        skill: 'printing',
        topics: [
          'Label printer skips every second label',
          'Scanner makes grey pages',
          'Kiosk at {site} eats the paper',
          'Printer asks for a code',
        ],
      },
      {
        name: 'Computers and screens',
        topics: ['Laptop is very slow', 'Second screen for the front desk', 'Meeting room screen stays black'],
      },
      { name: 'Tills and hand scanners', skill: 'tills', topics: ['Till {asset} does not open the drawer', 'Hand scanner dies by noon'] },
      { name: 'Tablets', topics: ['Tablet cracked', 'Class tablets stuck on an old version'] },
      { name: 'Phones', skill: 'phones', topics: ['Phone rings at the wrong desk', 'Headset crackles'] },
      { name: 'Doors and sensors', topics: ['Door card opens nothing', 'Cold store sensor is silent', 'Kiln log has gaps'] },
    ],
  },
  {
    name: 'Network and servers',
    children: [
      { name: 'Connections', skill: 'networks', topics: ['{site}: wireless drops every few minutes', 'No way in from the hotel'] },
      {
        name: 'Servers and storage',
        skill: 'servers',
        topics: ['Backup report says failed', 'Server room alarm: temperature', 'Picture archive nearly full'],
      },
    ],
  },
  {
    name: 'Work and data',
    children: [
      {
        name: 'Mail and calendar',
        topics: ['Mails to one address come back', 'Appointments show an hour early', 'Orders from the shop do not arrive by mail'],
      },
      { name: 'Files', topics: ['Cannot open the shared drive', 'Manuscript locked by somebody on holiday'] },
      { name: 'Programs', topics: ['Reminders to patients do not go out', 'X-ray pictures take minutes'] },
    ],
  },
  {
    name: 'People',
    children: [
      { name: 'Somebody new', topics: ['New starter on the 1st'] },
      { name: 'Somebody leaves', topics: ['Colleague leaves on Friday'] },
      { name: 'Signing in', topics: ['Password for the scheduling system', 'Sign-in asks for a code I never get'] },
    ],
  },
  {
    name: 'Safety',
    children: [{ name: 'Suspicious mail', skill: 'security', topics: ['Strange mail asking for gift vouchers'] }],
  },
  {
    name: 'Money and buying',
    children: [
      { name: 'Invoices', topics: ['Question about last invoice'] },
      { name: 'Quotes', topics: [] },
    ],
  },
];

/** Who knows what, and how well: 1 can help, 2 does it alone, 3 teaches it. */
export const DEMO_SKILLS: Readonly<Record<string, Readonly<Record<string, 1 | 2 | 3>>>> = {
  printing: { 'Marisol Quintero': 3, 'Sora Minegishi': 2, 'Fionn Hartigan': 1, 'Odalys Figueroa': 2 },
  tills: { 'Odalys Figueroa': 3, 'Fionn Hartigan': 2 },
  phones: { 'Deepa Raghunathan': 3, 'Sora Minegishi': 2 },
  networks: { 'Yusuf Demirel': 3, 'Ines Valadares': 2, 'Deepa Raghunathan': 2, 'Odalys Figueroa': 2 },
  servers: { 'Yusuf Demirel': 3, 'Piotr Zaleski': 3, 'Ines Valadares': 2 },
  security: { 'Ines Valadares': 3, 'Piotr Zaleski': 2 },
};

/** The second line of a desk, and lines that assign by themselves; every other desk has a first line that assigns nobody. */
export const DEMO_LINES = [
  { desk: 'Support', line: 'second', team: 'Second line', assigns: 'usual technician' },
  { desk: 'Security', line: 'first', team: 'Second line', assigns: 'least loaded' },
] as const;
