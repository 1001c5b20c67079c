import express, { type Request, type Response, type Router } from 'express';
import { rateLimit } from 'express-rate-limit';
import { isEnded, publicStatus } from '@core/desk';
import { parseZone, sayMoment, type Instant, type Zone } from '@core/ground';
import type { App } from '../../app/app';
import { escaped, outsidePage } from '../../app/outside-page';
import { hashSecret, isSecret } from '../../house';
import { answerFee } from '../flat-fees/ask-for-fee';
import { answerBack } from './answer-back';

/** Sends the answer that the press in the mail chose. Without scripts the button does. */
const FOLLOW_SCRIPT = `document.querySelector('form')?.submit();`;
const UPDATE = /^[0-9a-f-]{36}$/;
const TRIES_A_MINUTE = 60;

/**
 * The page a contact follows their own report on, by its secret address and without a sign-in. A press in a
 * mail opens a page that sends the answer by itself; opening it alone, as scanners of mail do, answers nothing.
 */
export function followPages(app: App): Router {
  const router = express.Router();
  router.use(rateLimit({ windowMs: 60_000, limit: TRIES_A_MINUTE, standardHeaders: 'draft-7', legacyHeaders: false }));
  router.use((_req, res, next) => {
    res.setHeader('cache-control', 'no-store');
    res.setHeader('x-robots-tag', 'noindex');
    next();
  });
  router.get('/parts/follow.js', (_req, res) => void res.type('js').send(FOLLOW_SCRIPT));
  router.get('/:token', (req, res) => show(app, req, res));
  router.get('/:token/:about/:answer', (req, res) => ask(app, req, res));
  router.post('/:token/:about/:answer', (req, res) => take(app, req, res));
  return router;
}

async function show(app: App, req: Request<{ token: string }>, res: Response): Promise<void> {
  const report = await readReport(app, req.params.token);
  if (!report) return notHere(app, res);
  const told = report.messages
    .map((m) => `<article><p class="soft">${escaped(sayMoment(m.at, report.zone))}</p><p class="text">${escaped(m.text)}</p></article>`)
    .join('');
  outsidePage(app, {
    res,
    status: 200,
    body: `${thanksOf(req.query)}
     <p class="soft">Your report #${report.number} of ${escaped(sayMoment(report.receivedAt, report.zone))}</p>
     <h1>${escaped(report.subject)}</h1>
     <p class="status${report.ended ? ' met' : ''}">${escaped(report.status)}</p>
     <p class="soft">As of ${escaped(sayMoment(app.clock.now(), report.zone))}. Reload the page to see how it stands then.</p>
     <h2>What we told you</h2>${told || '<p class="soft">Nothing yet.</p>'}`,
  });
}

/** A question that a mail of ours asked: the words of its two answers, and who takes them. */
interface Question {
  readonly name: keyof typeof THANKS;
  readonly says: Readonly<Record<Answer, string>>;
  readonly take: (app: App, token: string, yes: boolean) => Promise<boolean>;
}

type Answer = 'yes' | 'no';
type Asked = Request<{ token: string; about: string; answer: string }>;

/** What stands on the page once an answer has come. */
const THANKS = {
  back: {
    yes: 'Thank you. We have noted that it is back for you.',
    no: 'Thank you. We have noted that it is not back for you, and look again.',
  },
  fee: { yes: 'Thank you. We have noted that you agree to the fee.', no: 'Thank you. We have noted that you do not agree to the fee.' },
} as const satisfies Record<string, Record<Answer, string>>;

/** What is asked at an address: about the fee, or whether it is back, of one update. */
function questionOf({ token, about, answer }: Asked['params']): (Question & { readonly answer: Answer }) | undefined {
  if (!isSecret(token) || (answer !== 'yes' && answer !== 'no')) return undefined;
  if (about === 'fee')
    return { name: 'fee', answer, says: { yes: 'Yes, please do it at that fee', no: 'No, I do not agree to the fee' }, take: answerFee };
  if (!UPDATE.test(about)) return undefined;
  return {
    name: 'back',
    answer,
    says: { yes: 'Yes, it is back for me', no: 'No, it is not back for me' },
    take: (app, of, back) => answerBack(app, { token: of, updateId: about, back }),
  };
}

async function ask(app: App, req: Asked, res: Response): Promise<void> {
  const { token, about } = req.params;
  const question = questionOf(req.params);
  if (!question || !(await readReport(app, token))) return notHere(app, res);
  outsidePage(app, {
    res,
    status: 200,
    body: `<h1>${question.says[question.answer]}</h1>
     <form method="post" action="/follow/${token}/${about}/${question.answer}"><button>Send this answer</button></form>
     <script src="/follow/parts/follow.js"></script>`,
  });
}

async function take(app: App, req: Asked, res: Response): Promise<void> {
  const question = questionOf(req.params);
  if (!question || !(await question.take(app, req.params.token, question.answer === 'yes'))) return notHere(app, res);
  res.redirect(303, `/follow/${req.params.token}?${question.name}=${question.answer}`);
}

/** The thanks for the answer that the address says has just come. */
function thanksOf(query: Request['query']): string {
  for (const [name, words] of Object.entries(THANKS)) {
    const answer = query[name];
    if (answer === 'yes' || answer === 'no') return `<p class="note">${words[answer]}</p>`;
  }
  return '';
}

interface Report {
  readonly number: number;
  readonly subject: string;
  readonly receivedAt: Instant;
  readonly zone: Zone;
  readonly status: string;
  readonly ended: boolean;
  readonly messages: readonly { at: Instant; text: string }[];
}

/** Only what this contact wrote about and was told: nothing of other members, and nothing said inside. */
async function readReport(app: App, token: string): Promise<Report | undefined> {
  if (!isSecret(token)) return undefined;
  const t = await app
    .knex('status_link as l')
    .join('ticket as t', 't.id', 'l.ticket_id')
    .leftJoin('client as c', 'c.id', 't.client_id')
    .where('l.token_hash', hashSecret(token))
    .first('t.id', 't.number', 't.subject', 't.received_at', 't.merged_into_id', 'c.zone');
  if (!t) return undefined;
  // A double stands where the ticket stands that it was merged into, and a member where its umbrella does.
  const where = await app
    .knex('ticket as t')
    .leftJoin('ticket as u', 'u.id', 't.umbrella_id')
    .where('t.id', t.merged_into_id ?? t.id)
    .first('t.status', 't.hold_reason', 'u.status as umbrella_status', 'u.hold_reason as umbrella_held');
  const messages = await app
    .knex('message')
    .where((q) => void q.where({ ticket_id: t.id }).orWhere({ from_ticket_id: t.id }))
    .where({ direction: 'out', visibility: 'public', automatic: false })
    .whereNotNull('left_at')
    .whereNot('via', 'call')
    .orderBy('at', 'desc')
    .limit(50)
    .select('at', 'text');
  const stands = publicStatus({
    status: where.umbrella_status ?? where.status,
    holdReason: where.umbrella_status ? where.umbrella_held : where.hold_reason,
  });
  return {
    number: t.number,
    subject: t.subject,
    receivedAt: t.received_at,
    zone: t.zone ? parseZone(t.zone) : app.house.house.zone,
    status: where.umbrella_status ? `We work on it together with other reports of the same cause. ${stands}` : stands,
    ended: isEnded(where.status),
    messages,
  };
}

function notHere(app: App, res: Response): void {
  outsidePage(app, {
    res,
    status: 404,
    body: '<h1>There is no such page</h1><p>Its address must be taken whole from our mail. Answer that mail, and we will help.</p>',
  });
}
