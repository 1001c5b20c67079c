/** The morning of the story the link over the harbour went down. Minutes are after eight; contacts by their place in the client's list. */
export const HARBOUR_LINK = {
  subject: 'Harbour link down: east side has no network',
  openedMinute: 20,
  technician: 'Odalys Figueroa',
  firstUpdate: {
    minute: 30,
    text: (first: string) =>
      `Hello ${first},\n\nthe radio link over the harbour has been down since about eight, and we are on it. I write again as soon as I know why.\n\nOdalys`,
  },
  secondUpdate: {
    minute: 128,
    text: (first: string) =>
      `Hello ${first},\n\nthe mast on the far side has no power. Somebody is there now with the harbour office. I write again at eleven, or as soon as it is back.\n\nOdalys`,
  },
  note: 'Far mast: no power on the feed from the pump house. The pump house key is with the harbour office, they open at half past nine.',
  reports: [
    {
      client: 'Brackwater Ferries',
      contact: 2,
      minute: 4,
      subject: 'East terminal: tills say no network',
      text: 'Hello,\n\nboth tills at the east terminal say no network since eight. We sell on paper.',
    },
    {
      client: 'Brackwater Ferries',
      contact: 5,
      minute: 7,
      subject: 'Nothing loads on the east pier',
      text: 'Hi,\n\nnothing loads here on the east pier, not the timetable and not mail. The office over the water says all is fine there.',
    },
    {
      client: 'Tallow & Wick Chandlery',
      contact: 0,
      minute: 11,
      subject: 'Card machine cannot connect',
      text: 'Good morning,\n\nthe card machine says it cannot connect. I turned it off and on twice.',
    },
    {
      client: 'Brackwater Ferries',
      contact: 9,
      minute: 13,
      subject: 'Boarding screens frozen',
      text: 'Hello,\n\nthe boarding screens show the 07:40 still. People ask us every minute.',
    },
    {
      client: 'Saltmarsh Ceramics',
      contact: 1,
      minute: 18,
      subject: 'Kiln monitoring not reachable',
      text: 'Hello,\n\nwe cannot see the kiln from the office since this morning. It is at 900 degrees, so I would like to.',
    },
    {
      client: 'Brackwater Ferries',
      contact: 12,
      minute: 22,
      subject: 'Phones at the east office dead',
      text: 'Hi there,\n\nno dial tone on any phone in the east office. I write from my own.',
    },
    {
      client: 'Larkspur Seed Co-op',
      contact: 3,
      minute: 31,
      subject: 'No connection to the store computer',
      text: 'Hello,\n\nthe store on the quay has no connection to the office. Orders of this morning are not coming through.',
    },
    {
      client: 'Mirebank Schools',
      contact: 4,
      minute: 37,
      subject: 'Quayside classroom offline',
      text: 'Good morning,\n\nthe quayside classroom is offline. The lesson at nine was to be on the tablets.',
    },
    {
      client: 'Brackwater Ferries',
      contact: 15,
      minute: 44,
      subject: 'Gangway cameras black',
      text: 'Hello,\n\nall three gangway cameras are black since about eight. The crew look by eye.',
    },
  ],
} as const;
