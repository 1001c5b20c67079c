/** The seven messages that lie unsorted at 10:40, with how many minutes before that they came. */
export const UNSORTED = [
  {
    minutesAgo: 12,
    client: 'Hollin Veterinary Group',
    first: 'Orla',
    last: 'Devane',
    subject: 'Label printer at Northgate prints blank',
    text: 'Morning,\n\nThe label printer on the front desk has been putting out blank labels since we opened. Both receptionists have tried a new roll and turning it off and on. We have four animals waiting on discharge and are writing labels by hand, so it is slowing us down badly.\n\nIt is the one with the sticker HV-PRN-003. It was moved to the other shelf on Friday if that matters.\n\nThanks\nOrla',
  },
  {
    minutesAgo: 10,
    client: 'Brackwater Ferries',
    first: 'Bram',
    last: 'Osei',
    subject: 'Gate 2 scanner offline again',
    text: 'Hi,\n\nthe ticket scanner on gate 2 is offline again, third time this week. We wave people through by hand and count. Next boat is at 11:20.\n\nBram',
  },
  {
    minutesAgo: 9,
    client: 'Brackwater Ferries',
    first: 'Keziah',
    last: 'Lund',
    subject: 'No tickets printing at the kiosk',
    text: 'Hello,\n\nthe kiosk at the east terminal takes the money and prints nothing. I have put a paper sign on it. People are queueing at my window instead.\n\nKeziah',
  },
  {
    minutesAgo: 7,
    client: 'Quillfeather Press',
    first: 'Rafe',
    last: 'Ashdown',
    subject: 'Two new starters on the 1st',
    text: 'Hello,\n\nwe have two people starting on the 1st, both in editorial. They need laptops like mine, mail, and the manuscript share. Could you tell me what you need from us and by when?\n\nRafe',
  },
  {
    minutesAgo: 6,
    client: null,
    first: 'hall.tablet',
    last: 'mirebank.example',
    subject: 'Password for the hall tablet',
    text: 'hi the tablet in the sports hall asks for a password nobody knows. we have a match at 3. can you help? sent from the hall',
  },
  {
    minutesAgo: 4,
    client: 'Vantry Touring Orchestra',
    first: 'Ilse',
    last: 'Marchetti',
    subject: 'Quote for the new rehearsal room',
    text: 'Dear all,\n\nwe may take a second rehearsal room from spring. Could you give me a rough figure for wireless, four phones and a door that opens with our cards?\n\nBest wishes\nIlse Marchetti',
  },
  {
    minutesAgo: 2,
    client: 'Fennimore Dental Rooms',
    first: 'Tilda',
    last: 'Farrow',
    subject: 'X-ray pictures do not open',
    text: 'Hello,\n\nthe pictures of this morning do not open in room 2. In room 1 they do. The patient is in the chair now.\n\nTilda, front desk',
  },
] as const;

/** Two that nobody has answered yet and whose response is due soon: due how many minutes from now, by the house's promise. */
export const NEARLY_MISSED = [
  {
    dueInMinutes: 14,
    responseMinutes: 60,
    client: 'Hollin Veterinary Group',
    technician: 'Callum Strachan',
    impact: 'several',
    urgency: 'stopped',
    category: 'Phones',
    subject: 'Phones at the second surgery ring once and stop',
    text: 'Hello,\n\nevery call at the second surgery rings once and is gone. We ring people back from our own phones, when the display shows who it was.\n\nThank you',
  },
  {
    dueInMinutes: 33,
    responseMinutes: 120,
    client: 'Quillfeather Press',
    technician: 'Sora Minegishi',
    impact: 'one',
    urgency: 'stopped',
    category: 'Printing and scanning',
    subject: 'Proof printer stops after every page',
    text: 'Hi,\n\nthe proof printer stops after every page and wants its tray opened and shut. I have 64 pages to go and a door that is getting loose.\n\nMany thanks',
  },
] as const;

/** Who is still on work that should have ended by now: on whom, since what minute of the day. */
export const OVER = { technician: 'Yusuf Demirel', sinceMinute: 8 * 60 + 35 } as const;
