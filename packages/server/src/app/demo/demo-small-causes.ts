import type { DemoTopic } from './demo-topics';

/** What is asked, in a sentence of who asks, and how it ended. */
type Cause = readonly [subject: string, ask: string, end: string];

/** Small things that happen every day, by their category; those marked are asked for, the others are broken. */
const CAUSES: Readonly<Record<string, { readonly broken: readonly Cause[]; readonly asked: readonly Cause[] }>> = {
  'Printing and scanning': {
    broken: [
      ['Envelopes jam in tray 2', 'every envelope from tray 2 comes out folded', 'the guide stood one notch too tight'],
      ['Prints come out in purple', 'all prints have a purple cast since lunch', 'the yellow cartridge was empty and said nothing'],
      ['Big plan is cut off at the edge', 'the A3 plan loses its right edge', 'the page was scaled for A4, now it fits'],
      ['Printer wakes up at night', '{asset} starts humming at two every night', 'an old job hung in the queue and is gone'],
      ['Badge printer smears the names', 'names on the badges smear when we touch them', 'the film was in upside down'],
    ],
    asked: [
      [
        'Scan straight to the accounts folder',
        'could the scanner have a button for the accounts folder',
        'the button is there, named Accounts',
      ],
      ['Toner for the machine by the stairs', 'we are on the last cartridge', 'two are on their way and one is in your cupboard'],
    ],
  },
  'Computers and screens': {
    broken: [
      ['Mouse jumps across the screen', 'the pointer jumps about as if it had a mind', 'the desk is glass, a mat solved it'],
      ['Keyboard types the wrong letters', 'z and y have changed places', 'the layout had been switched by a key press'],
      ['No sound in calls', 'they hear me, I hear nothing', 'sound went to the screen that has no speaker'],
      ['Fan is loud all day', '{asset} sounds like a hair dryer', 'a report ran in a loop, it is stopped'],
      ['Screen flickers after lunch', 'the left screen flickers from noon on', 'the cable was bent behind the shelf, it is a new one now'],
      ['Laptop does not charge', 'the light stays off whatever I plug in', 'the charger was dead, you have another'],
      ['Clock is seven minutes late', 'my clock is late and I miss the start of calls', 'it asks the right clock again'],
    ],
    asked: [
      ['Larger text on my screen', 'could everything be a size larger', 'text and pointers are a size larger'],
      [
        'Docking station for the hot desk',
        'people who come in for a day have nowhere to plug in',
        'one is set up and tried with three laptops',
      ],
      ['Old machine to be wiped', '{asset} goes to the school, please wipe it first', 'it is wiped and the note is in your file'],
    ],
  },
  'Tills and hand scanners': {
    broken: [
      ['Till prints the old address', 'receipts show where we were last year', 'the footer has the new address'],
      ['Scanner beeps twice for everything', 'each item is counted twice', 'its echo setting was on'],
      ['Second till shows yesterday', 'the second till thinks it is yesterday', 'its day was not closed, it is now'],
    ],
    asked: [
      ['New button for gift wrapping', 'we would like a key for gift wrapping', 'the key is there on all tills, at the price you named'],
    ],
  },
  Tablets: {
    broken: [
      ['Tablet turns its picture the wrong way', 'the tablet at the counter stands on its head', 'turning is locked now'],
      ['Tablet forgets the wireless', 'it asks for the password every morning', 'it had two entries for one network'],
    ],
    asked: [
      ['Case for the loan tablets', 'three tablets have no case', 'three cases are in the post to you'],
      [
        'Timetable on the hall tablet',
        'the hall tablet should show the timetable by itself',
        'it shows the timetable whenever it is not used',
      ],
    ],
  },
  Phones: {
    broken: [
      [
        'Voicemail light will not go out',
        'the light is on and there is nothing to hear',
        'a message of a former colleague was still there',
      ],
      ['Door phone rings the wrong floor', 'deliveries ring upstairs', 'the button goes to reception again'],
      ['Calls drop after ten minutes', 'every longer call ends by itself', 'a timer in the line was wrong, the supplier has set it right'],
      ['Phone display is blank', '{asset} works but shows nothing', 'its brightness had been set to nought'],
    ],
    asked: [
      [
        'Holiday announcement',
        'we are closed on Friday, could callers hear that',
        'the announcement runs from Thursday evening until Monday at eight',
      ],
      ['Number for the new treatment room', 'room 4 has a phone and no number', 'it has 214, and reception can put calls through'],
      ['Phone of a colleague back in the drawer', 'he left on Friday, here is his phone', 'it is wiped and listed as spare'],
      ['Divert to my mobile on Thursdays', 'on Thursdays I am out', 'it diverts by itself each Thursday'],
    ],
  },
  'Doors and sensors': {
    broken: [
      ['Side door stays open too long', 'the side door stands open for a minute', 'it is ten seconds again'],
      ['Camera at the yard is foggy', 'the yard looks like soup', 'the glass was wet inside, dried and sealed'],
      ['Sensor battery low', 'the app says a battery is low and not whose', 'it was the one in the store room, changed'],
    ],
    asked: [
      ['Card for the cleaner', 'the new cleaner needs a card, evenings only', 'the card works from six to nine'],
      ['Who was last in the archive', 'we found the archive unlocked', 'the list of that evening is in your mail'],
    ],
  },
  Connections: {
    broken: [
      ['Guest network full', 'guests cannot get on since the course began', 'it takes more guests now and forgets them sooner'],
      ['Line slow every afternoon', 'from three on everything crawls', 'a copy of the archive ran at that time, it runs at night now'],
      ['One desk has no network', 'the desk by the pillar is dead', 'the socket was never patched, it is'],
      ['Away from the office nothing opens', 'from home I get in and nothing opens', 'the address of the file server was an old one'],
      [
        'Wireless asks for a certificate',
        'it asks me to trust something',
        'the old one ended yesterday, the new one is known to all machines',
      ],
    ],
    asked: [
      ['Wireless in the garden room', 'could we have wireless out there', 'one more access point hangs there and reaches the terrace'],
    ],
  },
  'Servers and storage': {
    broken: [
      ['Nightly copy took until ten', 'the copy was still running when we came', 'it had to start anew after a break in the line'],
      ['Share says it is full', 'saving fails, it says full', 'the bin was never emptied, 80 GB are free'],
      ['Warning light on the battery box', 'the box under the stairs blinks yellow', 'its battery is worn and a new one is in'],
      ['Server asks for a restart', 'a window keeps asking to restart', 'restarted at seven, all services are back'],
    ],
    asked: [
      ['More room for the scans', 'we will scan the old files this winter', 'the share has another 500 GB'],
      ['Restore a folder of last week', 'somebody moved a folder and it is gone', 'it is back as it was on Wednesday evening'],
    ],
  },
  'Mail and calendar': {
    broken: [
      ['Mail stuck in the outbox', 'one mail will not leave', 'its picture was too large, it went as a link'],
      ['Signature shows twice', 'my name is under every mail twice', 'one of them came from the phone'],
      ['Calendar shows a colleague as busy for ever', 'Bram is never free', 'an appointment had no end'],
      ['Invitations arrive without text', 'I see the time and not what for', 'the view was set to plain'],
      ['Reply goes to everybody', 'my answers go to the whole list', 'the button had been set to all'],
      ['Search in mail finds nothing old', 'nothing before summer is found', 'the index is built anew and whole'],
      ['Newsletter lands with the junk', 'our own newsletter is sorted out', 'the sender is on the list of known ones'],
    ],
    asked: [
      ['Shared mailbox for bookings', 'three of us should answer bookings', 'bookings is there and all three see it'],
      ['Away note for next week', 'I forgot to set my note and I am on the ferry', 'it is set, until Monday'],
      ['Mail of a colleague on leave', 'who reads her mail while she is away', 'you see her mailbox until she is back'],
    ],
  },
  Files: {
    broken: [
      ['Two versions of one list', 'we both typed into the price list', 'both are joined, and it opens for both at once now'],
      ['File opens read-only', 'I cannot save what I changed', 'it was still open on the laptop at home'],
      ['Folder names in odd signs', 'umlauts became little boxes', 'the names are put right, and the tool that wrote them too'],
      ['Link in the handbook leads nowhere', 'page 12 points to nothing', 'the link goes to the new place'],
    ],
    asked: [
      ['Folder only for the board', 'four people should see it and nobody else', 'it is there, with those four'],
      ['Share photos with the press', 'they need forty pictures by tonight', 'they have a link that ends on Friday'],
    ],
  },
  Programs: {
    broken: [
      ['Report adds up to nothing', 'the monthly report shows nought everywhere', 'the month had not been chosen, it is remembered now'],
      ['Program asks for an update and stops', 'it wants to update and then does nothing', 'it lacked the right to, done for all machines'],
      ['Picture viewer opens twice', 'every picture opens two windows', 'two programs had claimed it'],
      ['Spelling help speaks another language', 'it marks every word', 'it is set to English again'],
      ['Label size jumps back', 'each morning labels are too small again', 'it is kept in the template now'],
      ['Spreadsheet counts in a circle', 'it says something about a circle and adds nothing', 'a cell had pointed to its own sum'],
      ['Map does not load in the browser', 'the route planner stays grey', 'a blocker had caught it'],
    ],
    asked: [
      ['Program for the floor plans', 'we need to open the plans of the builder', 'a viewer is installed for you and Keziah'],
      ['Newer version for all three', 'the supplier says we should move up', 'all three have it since this morning'],
    ],
  },
  'Signing in': {
    broken: [
      ['Locked out after the holidays', 'I tried three times and it locked me out', 'it is open again, with a new password of your own'],
      ['Code goes to my old number', 'the code is sent to a phone I gave back', 'it goes to the new one'],
      [
        'Name changed, sign-in did not',
        'I married and the computer does not know',
        'sign-in and mail have the new name, the old address still works',
      ],
      ['Card reader ignores my card', 'the reader blinks and that is all', 'its driver was missing after the update'],
    ],
    asked: [
      ['Second key for the safe program', 'two of us should be able to open it', 'both have a key, tried with both'],
      ['Trainee for two weeks', 'a trainee comes on Monday and needs to get in', 'the account ends by itself in two weeks'],
      ['Rights like her predecessor', 'she should see what he saw', 'she sees the same four folders and two mailboxes'],
      [
        'Read only for the auditor',
        'the auditor comes on Thursday and should see, not touch',
        'the account reads the two folders, until Friday',
      ],
    ],
  },
  'Suspicious mail': {
    broken: [
      ['Call from somebody who knew my name', 'he wanted me to open a page', 'it was no supplier of ours; nothing was opened'],
      ['Parcel note nobody ordered', 'a mail wants a fee for a parcel', 'it is false, and gone from eleven mailboxes'],
      [
        'Invoice with a new account number',
        'a supplier says their account changed',
        'we rang them: it was not theirs; the sender is barred',
      ],
    ],
    asked: [['May I open this attachment', 'it looks right and feels wrong', 'it was harmless, thank you for asking first']],
  },
  Invoices: {
    broken: [['Invoice went to the old address', 'our bookkeeping never got it', 'it is on its way again, and the address is changed']],
    asked: [
      [
        'Which visit is this line',
        'there is a visit on the 3rd that I cannot place',
        'it was the door at the side entrance, the sheet is attached',
      ],
    ],
  },
};

const topicOf = ([subject, ask, end]: Cause, kind: 'incident' | 'service request'): DemoTopic => ({
  subjects: [subject],
  asks: [`Hello,\n\n${ask}. Could you have a look?\n\n{first}`, `Hi,\n\na small thing: ${ask}.\n\nThanks\n{first}`],
  answers: ['Hello {first}, thanks, I have it and am looking at it now.', 'Hi {first}, I am on it and write as soon as I know more.'],
  back: 'Thank you, that was quick.',
  ends: `That is done: ${end}.`,
  note: `${end.charAt(0).toUpperCase()}${end.slice(1)}.`,
  kind,
  impact: 'one',
  urgency: kind === 'incident' ? 'hampered' : 'can wait',
  minutes: [10, 40],
  activity: 'remote',
});

/** The category of each small cause, by its subject. */
export const SMALL_CATEGORIES: ReadonlyMap<string, string> = new Map(
  Object.entries(CAUSES).flatMap(([category, { broken, asked }]) =>
    [...broken, ...asked].map(([subject]): [string, string] => [subject, category]),
  ),
);
export const SMALL_TOPICS: readonly DemoTopic[] = Object.values(CAUSES).flatMap(({ broken, asked }) => [
  ...broken.map((c) => topicOf(c, 'incident')),
  ...asked.map((c) => topicOf(c, 'service request')),
]);
