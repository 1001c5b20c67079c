import { isDateText } from '../../ground';

/** That somebody is away, and for how long where the words tell. */
export interface AwayNotice {
  /** The first day away and the first day back, as local dates; null where the words do not say. */
  readonly from: string | null;
  readonly back: string | null;
}

const AWAY =
  /\b(out of (the )?office|out-of-office|on (annual |parental |sick )?leave|on holiday|away (from|until|till)|automatic reply|auto-?reply|absent|absence)\b/i;
const MONTHS = ['jan', 'feb', 'mar', 'apr', 'may', 'jun', 'jul', 'aug', 'sep', 'oct', 'nov', 'dec'];
const DAY = String.raw`(?:(?:mon|tues?|wed(?:nes)?|thu(?:rs)?|fri|sat(?:ur)?|sun)(?:day)?,?\s+)?(?:the\s+)?(\d{1,2})(?:st|nd|rd|th)?\s+(?:of\s+)?([a-z]{3,9})\.?(?:,?\s+(\d{4}))?|(\d{4})-(\d{2})-(\d{2})`;
const FROM = new RegExp(String.raw`\b(?:from|since|between)\s+(?:${DAY})`, 'i');
const BACK = new RegExp(
  String.raw`\b(?:back|return(?:ing)?|available again|in the office again)\s+(?:in the office\s+|to work\s+|to the office\s+)?(?:on\s+)?(?:${DAY})`,
  'i',
);
const LAST = new RegExp(String.raw`\b(?:until|till|through|to|and)\s+(?:and including\s+)?(?:${DAY})`, 'i');
const MOST_READ = 4000;

/**
 * Whether an automatic mail says that somebody is away.
 * @param today the local date it came, for days written without a year
 */
export function readAwayNotice(subject: string, text: string, today: string): AwayNotice | undefined {
  const words = `${subject}\n${text}`.slice(0, MOST_READ);
  if (!AWAY.test(words)) return undefined;
  const from = dateIn(FROM.exec(words), today);
  const back = dateIn(BACK.exec(words), today);
  const last = dateIn(LAST.exec(words), today);
  return { from, back: back ?? (last ? dayAfter(last) : null) };
}

function dateIn(found: RegExpExecArray | null, today: string): string | null {
  if (!found) return null;
  const [, day, month, year, isoYear, isoMonth, isoDay] = found;
  if (isoYear) return checked(`${isoYear}-${isoMonth}-${isoDay}`);
  const m = MONTHS.indexOf((month ?? '').slice(0, 3).toLowerCase()) + 1;
  if (!m) return null;
  const named = (y: number) => checked(`${y}-${String(m).padStart(2, '0')}-${String(Number(day)).padStart(2, '0')}`);
  if (year) return named(Number(year));
  const own = Number(today.slice(0, 4));
  const date = named(own);
  // Without a year the one that comes is meant, unless it was just now.
  return date && monthsBetween(date, today) > 6 ? named(own + 1) : date;
}

const monthsBetween = (earlier: string, later: string) =>
  (Number(later.slice(0, 4)) - Number(earlier.slice(0, 4))) * 12 + Number(later.slice(5, 7)) - Number(earlier.slice(5, 7));

function checked(date: string): string | null {
  return isDateText(date) ? date : null;
}

function dayAfter(date: string): string {
  return new Date(Date.parse(`${date}T00:00:00Z`) + 86_400_000).toISOString().slice(0, 10);
}
