import type { Kind } from '@core/tickets';
import type { Impact, Urgency } from '@core/priority';

/** One kind of thing that happens, told as its people would tell it. {asset}, {site} and {first} are filled in. */
export interface DemoTopic {
  readonly subjects: readonly string[];
  readonly asks: readonly string[];
  readonly answers: readonly string[];
  readonly back?: string;
  readonly ends: string;
  readonly note: string;
  readonly kind: Exclude<Kind, 'unsorted'>;
  readonly impact: Impact;
  readonly urgency: Urgency;
  readonly minutes: readonly [number, number];
  readonly activity: 'remote' | 'on site' | 'workshop';
  readonly desk?: 'Support' | 'Security' | 'Projects' | 'Billing';
}

export const DEMO_TOPICS: readonly DemoTopic[] = [
  {
    subjects: ['Label printer skips every second label', 'Labels come out half blank'],
    asks: [
      'Morning,\n\n{asset} skips every second label since we changed the roll. We can live with it for a day, but the waiting room is filling up.\n\nThanks\n{first}',
      'Hello,\n\nthe labels from {asset} are blank on the right half. I cleaned the head as you showed us last time, no change.\n\n{first}',
    ],
    answers: [
      'Hello {first}, thanks for cleaning it first, that saves us a step. I have set the driver to the roll you use now. Please print two and tell me how they look.',
    ],
    back: 'Two came out perfect. Thank you!',
    ends: 'The driver had gone back to the old roll width after its update. It is fixed to yours now, so it should not happen again.',
    note: 'Driver reset after update, width pinned.',
    kind: 'incident',
    impact: 'several',
    urgency: 'hampered',
    minutes: [15, 40],
    activity: 'remote',
  },
  {
    subjects: ['Cannot open the shared drive', 'Shared folder gone since this morning'],
    asks: [
      "Hi,\n\nthe shared drive is not there when I start {asset}. My colleagues see it. I need the price list for ten o'clock.\n\n{first}",
    ],
    answers: [
      'Hi {first}, I can see that your sign-in expired over the weekend. I have renewed it; please sign out and in again and the drive comes back by itself.',
    ],
    back: 'Back again, and just in time. Cheers.',
    ends: 'The sign-in had expired. I made it renew itself before it ends.',
    note: 'Expired ticket on the account; renewal policy applied.',
    kind: 'incident',
    impact: 'one',
    urgency: 'stopped',
    minutes: [10, 30],
    activity: 'remote',
  },
  {
    subjects: ['New starter on the 1st', 'Account for a new colleague'],
    asks: [
      'Hello,\n\nwe have somebody new starting on Monday at {site}. Could you set up mail, the shared drive and a desk phone? They take over the desk by the window.\n\nKind regards\n{first}',
    ],
    answers: ['Hello {first}, gladly. I need the full name and whether they should see the accounts folder. The rest I have.'],
    back: 'No accounts folder. I will bring the form with the name over today.',
    ends: 'The account is ready; the first sign-in asks for a password of their own. The phone is on the desk.',
    note: 'Account made from the form, groups as the rest of the desk.',
    kind: 'service request',
    impact: 'one',
    urgency: 'can wait',
    minutes: [30, 60],
    activity: 'remote',
  },
  {
    subjects: ['{site}: wireless drops every few minutes', 'Wireless unusable in the back rooms'],
    asks: [
      'Hi all,\n\nthe wireless at {site} drops every few minutes, worst in the back rooms. Four of us are working from the corridor now.\n\n{first}',
    ],
    answers: [
      'Hi {first}, one of the access points restarts itself over and over. I have moved your devices to its neighbour for now, and somebody comes by today to look at the cable.',
    ],
    back: 'Better already. We are in until five.',
    ends: 'The cable to the access point was pinched behind a cupboard. It is replaced, and the point has been steady since.',
    note: 'AP rebooted 31 times since 06:00, PoE fault on the run. Cable replaced.',
    kind: 'incident',
    impact: 'several',
    urgency: 'stopped',
    minutes: [60, 120],
    activity: 'on site',
  },
  {
    subjects: ['Laptop is very slow', 'Takes ten minutes to start'],
    asks: [
      'Hello,\n\n{asset} takes ten minutes until I can work. It has been getting worse for weeks and today it froze twice.\n\n{first}',
    ],
    answers: [
      'Hello {first}, the drive in it is nearly full and shows its age. I would like to put a new one in; it takes an hour in the workshop. When can you spare it?',
    ],
    back: 'Tomorrow after lunch would suit me.',
    ends: 'New drive is in, your files are as they were, and it starts in under half a minute.',
    note: 'Drive health 61 %, cloned to a new one.',
    kind: 'incident',
    impact: 'one',
    urgency: 'hampered',
    minutes: [60, 120],
    activity: 'workshop',
  },
  {
    subjects: ['Strange mail asking for gift vouchers', 'Is this mail really from our director?'],
    asks: [
      'Hi,\n\nI got a mail that looks like it is from our director, asking me to buy vouchers. I have not answered. What should I do?\n\n{first}',
    ],
    answers: [
      'Hi {first}, well spotted, and right not to answer: it is a fake. Please leave it where it is; I am taking it out of all mailboxes now.',
    ],
    ends: 'It had gone to eleven people; nobody answered. The sender is blocked, and I sent everybody a short note on what to look for.',
    note: 'Lookalike domain blocked, 11 copies purged, nobody clicked.',
    kind: 'incident',
    impact: 'several',
    urgency: 'hampered',
    minutes: [20, 45],
    activity: 'remote',
    desk: 'Security',
  },
  {
    subjects: ['Till {asset} does not open the drawer', 'Cash drawer stuck'],
    asks: [
      'Morning,\n\nthe drawer on {asset} does not open when a sale ends. We open it with the key, which is slow with a queue.\n\n{first}',
    ],
    answers: [
      'Morning {first}, I can restart the part that drives the drawer without closing the till. Please tell me when there is a gap between customers.',
    ],
    back: 'Now is good.',
    ends: 'The drawer opens again. The receipt printer had taken its port after an update; they have one each now.',
    note: 'Port clash after update, fixed assignment.',
    kind: 'incident',
    impact: 'one',
    urgency: 'hampered',
    minutes: [15, 30],
    activity: 'remote',
  },
  {
    subjects: ['Second screen for the front desk', 'Could we get another screen?'],
    asks: ['Hello,\n\ncould we have a second screen at the front desk of {site}? A used one is fine if you have it.\n\nThanks\n{first}'],
    answers: ['Hello {first}, we have a 27 inch one in stock that would fit the arm you have. Shall we bring it on Thursday?'],
    back: 'Yes please, Thursday is fine.',
    ends: 'Screen is up and set as the extended desktop; the arm took it without an adapter.',
    note: 'One screen from stock, fitted.',
    kind: 'service request',
    impact: 'one',
    urgency: 'can wait',
    minutes: [30, 60],
    activity: 'on site',
  },
  {
    subjects: ['Backup report says failed', "Last night's backup"],
    asks: ['Hi,\n\nthe report this morning says the backup of {asset} failed. Should I worry?\n\n{first}'],
    answers: [
      'Hi {first}, no need: it ran out of room on the second copy, the first one is complete. I am clearing old versions now and will run it again at noon.',
    ],
    ends: 'The noon run was complete and I restored two files from it to be sure. Old versions are now removed before each run.',
    note: 'Retention fixed; restored two files as a test.',
    kind: 'incident',
    impact: 'several',
    urgency: 'can wait',
    minutes: [25, 50],
    activity: 'remote',
  },
  {
    subjects: ['Phone rings at the wrong desk', 'Calls end up in the wrong room'],
    asks: ['Hello,\n\nsince the move, calls for reception ring in the store room. It is a bit of a walk.\n\n{first}'],
    answers: ['Hello {first}, sorry about the exercise. I have swapped the two back; please ring yourself once.'],
    back: 'Works. My legs thank you.',
    ends: 'The two phones were swapped in the plan when the desks moved. The plan and the labels on the phones are right now.',
    note: 'Extension plan corrected after desk move.',
    kind: 'service request',
    impact: 'one',
    urgency: 'hampered',
    minutes: [10, 25],
    activity: 'remote',
  },
  {
    subjects: ['Password for the scheduling system', 'Locked out'],
    asks: ['Hi, I have locked myself out of the scheduling system after the holidays. Could you let me in again? {first}'],
    answers: ['Hi {first}, done. The first sign-in asks you for a new one, with at least twelve characters.'],
    ends: 'You are in again. If you like, I can set up the password safe on {asset}, it takes ten minutes.',
    note: 'Unlocked, identity checked by call back.',
    kind: 'service request',
    impact: 'one',
    urgency: 'stopped',
    minutes: [10, 15],
    activity: 'remote',
  },
  {
    subjects: ['Server room alarm: temperature', '{asset} reports 34 degrees'],
    asks: [
      'Hello,\n\nthe little display in the server room at {site} shows 34 degrees and beeps. The door was open when I came.\n\n{first}',
    ],
    answers: [
      'Hello {first}, please leave the door open for now. The cooling has stopped; I have slowed the servers down, and Piotr is on his way.',
    ],
    ends: 'The filter was blocked. Cooling is back at 22 degrees, the servers run at full speed, and a reminder for the filter is in the calendar.',
    note: 'Filter blocked, cleaned; throttling removed at 22 C.',
    kind: 'incident',
    impact: 'everyone',
    urgency: 'hampered',
    minutes: [60, 150],
    activity: 'on site',
  },
  {
    subjects: ['Scanner makes grey pages', 'Scans too dark to read'],
    asks: ['Hello, whatever I scan on the big copier at {site} comes out grey. The bookkeeper cannot read it. {first}'],
    answers: ["Hello {first}, somebody set the darkness to the darkest in the copier's own menu. I have put it back from here."],
    ends: 'Scans are clear again, and the setting is locked with the code you have.',
    note: 'Copier menu setting.',
    kind: 'incident',
    impact: 'several',
    urgency: 'can wait',
    minutes: [10, 20],
    activity: 'remote',
  },
  {
    subjects: ['Question about last invoice', 'Two hours on the 14th?'],
    asks: [
      'Hello,\n\nthe last invoice shows two hours on the 14th. Could you tell me what they were for? I am sure it is right, I just need it for the file.\n\n{first}',
    ],
    answers: [
      'Hello {first}, they were for the cable at the back rooms: an hour and a half to find it, half an hour to replace it. I am glad to send you the entry with its note.',
    ],
    back: 'That is all I needed, thank you.',
    ends: 'Sent the entry with its note for your file.',
    note: 'Asked by their bookkeeper, no dispute.',
    kind: 'service request',
    impact: 'one',
    urgency: 'can wait',
    minutes: [10, 15],
    activity: 'remote',
    desk: 'Billing',
  },
  {
    subjects: ['Tablet cracked', '{asset} fell off the trolley'],
    asks: ['Hi,\n\n{asset} fell and the glass is cracked. It still works but the children should not use it like that.\n\n{first}'],
    answers: ['Hi {first}, please tape it and put it aside. I bring a spare this afternoon and take yours to the workshop.'],
    ends: 'The spare is in your class set under the same name. The cracked one gets new glass and comes back as the spare.',
    note: 'Glass replaced in the workshop, swapped with spare.',
    kind: 'incident',
    impact: 'one',
    urgency: 'can wait',
    minutes: [30, 75],
    activity: 'workshop',
  },
  {
    subjects: ['Meeting room screen stays black', 'No picture in the meeting room'],
    asks: ['Hello,\n\nthe screen in the meeting room at {site} stays black and we have visitors at two.\n\n{first}'],
    answers: [
      'Hello {first}, I will talk you through it: please press the small button under the left edge until the light turns white, then choose the second input.',
    ],
    back: 'We have a picture!',
    ends: 'It had been set to an input that nothing is plugged into. I put a label with the steps under the screen at my next visit.',
    note: 'Wrong input. Label to bring.',
    kind: 'incident',
    impact: 'several',
    urgency: 'stopped',
    minutes: [10, 25],
    activity: 'remote',
  },
];
