import { TooManyWait } from '../house/access/in-turn';
import { FilesAway } from './blob-store';
import { databaseIsAway } from './database-away';
import { problem, type Problem } from './problems';

const MEGABYTE = 1024 * 1024;
/** What the reader of bodies calls what it cannot read. */
const UNREADABLE: Readonly<Record<string, readonly [number, string, string]>> = {
  'entity.parse.failed': [400, 'Not JSON', 'The body could not be read as JSON.'],
  'encoding.unsupported': [
    415,
    'Unknown encoding',
    'The body is encoded in a way that is not read here; send it plain, as gzip, deflate or br.',
  ],
  'charset.unsupported': [415, 'Unknown character set', 'The body is in a character set that is not read here; send UTF-8.'],
  'request.aborted': [400, 'Cut off', 'The body ended before it was whole.'],
  'request.size.invalid': [400, 'Not whole', 'The body is not as long as its head says.'],
  'parameters.too.many': [413, 'Too many fields', 'The form has too many fields.'],
};
/** What PostgreSQL says of a value: it does not fit its type, names what is not there, is there already, or is barred by a rule. */
const GIVEN: readonly (readonly [RegExp, number, string, string])[] = [
  [/^22\w{3}$/, 422, 'invalid', 'a value within what can be kept'],
  [/^23503$/, 422, 'invalid', 'something that is there'],
  [/^23505$/, 409, 'already-used', 'something that is not there yet'],
  [/^23514$/, 422, 'invalid', 'a value within what is allowed'],
  [/^21000$/, 422, 'invalid', 'each of them once'],
];

/** What PostgreSQL says where a row would come to lie outside of the divisions that are somebody's. */
const OUTSIDE = '42501';

/** What a fault means to whoever asked; undefined where it is one of ours. */
export function problemOfFault(fault: unknown): Problem | undefined {
  if (fault instanceof FilesAway)
    return problem({
      status: 507,
      type: 'files-away',
      title: 'Files cannot be kept',
      detail: 'Nothing was saved: the folder for files is gone or full. Whoever keeps Drumline must look at it.',
    });
  if (fault instanceof TooManyWait)
    return problem({
      status: 503,
      type: 'busy',
      title: 'Busy',
      detail: 'Too many sign in just now. Nothing was saved; try again in a moment.',
    });
  if (databaseIsAway(fault))
    return problem({
      status: 503,
      type: 'database-away',
      title: 'The database is away',
      detail: 'Nothing was saved. Drumline goes on by itself as soon as the database is back; try again then.',
    });
  const {
    type,
    code,
    status,
    length = 0,
    limit = 0,
  } = fault as { type?: string; code?: string; status?: number; length?: number; limit?: number };
  if (code === OUTSIDE)
    return problem({
      status: 403,
      type: 'not-allowed',
      title: 'Not allowed',
      detail: 'Nothing was saved: it belongs to a division in which your access role does not allow this.',
    });
  if (type === 'entity.too.large') {
    const given = length ? `${(length / MEGABYTE).toFixed(1)} MB were given; ` : '';
    return problem({
      status: 413,
      type: 'too-large',
      title: 'Too large',
      detail: `${given}at most ${Math.round(limit / MEGABYTE)} MB are taken.`,
    });
  }
  const unreadable = type ? UNREADABLE[type] : undefined;
  if (unreadable) return problem({ status: unreadable[0], type: 'not-readable', title: unreadable[1], detail: unreadable[2] });
  if (typeof code === 'string' && /^Z_|ERR_BROTLI|ERR__ERROR/.test(code))
    return problem({ status: 400, type: 'not-readable', title: 'Broken compression', detail: 'The body could not be unpacked.' });
  const given = GIVEN.find(([codes]) => typeof code === 'string' && codes.test(code));
  if (given) return problemOfValue(fault as { detail?: string }, given);
  if (fault instanceof URIError)
    return problem({ status: 400, type: 'not-readable', title: 'Not an address', detail: 'The address has a % that stands for nothing.' });
  if (status && status >= 400 && status < 500)
    return problem({ status, type: 'not-readable', title: 'Not readable', detail: 'The request could not be read.' });
  return undefined;
}

/** The field is named after its column; nothing else of the database's words is told. */
function problemOfValue({ detail }: { detail?: string }, [, status, type, allowed]: (typeof GIVEN)[number]): Problem {
  if (/still referenced/.test(detail ?? ''))
    return problem({
      status: 409,
      type: 'not-possible-now',
      title: 'Not possible now',
      detail: 'It is used elsewhere and cannot be taken away. Nothing was changed.',
    });
  const column = /^Key \((?:lower\()?([a-z_]+)/.exec(detail ?? '')?.[1];
  const field = column?.replace(/_([a-z])/g, (_, letter: string) => letter.toUpperCase());
  const words = field ? `${field} needs ${allowed}.` : `A value that was given needs to be ${allowed}.`;
  const title = type === 'invalid' ? 'Something given is not right' : 'Used already';
  return { ...problem({ status, type, title, detail: `${words} Nothing was saved.` }), ...(field ? { fields: { [field]: allowed } } : {}) };
}
