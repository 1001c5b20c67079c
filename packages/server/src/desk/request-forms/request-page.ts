import express, { type Request as Asked, type Response, type Router } from 'express';
import { rateLimit } from 'express-rate-limit';
import { ValidationError } from 'yup';
import { type Id, isRefusal } from '@core/ground';
import { type Request, requestSchema, type OwnField } from '@core/desk';
import type { App } from '../../app/app';
import type { Row } from '../../app/rows';
import { escaped, outsidePage } from '../../app/outside-page';
import { byContact } from '../../app/actor';
import { transact } from '../../app/work';
import { openByForm } from './open-by-form';

const ASKED_A_MINUTE = 60;
/** So many requests from one address in an hour; a person at a form needs fewer, a machine more. */
const SENT_AN_HOUR = 20;
type Typed = Readonly<Record<string, string>>;

/** The pages of request forms, open to everybody who has their address. What lands is unsorted, like all from outside. */
export function requestPages(app: App): Router {
  const router = express.Router();
  router.use(rateLimit({ windowMs: 60_000, limit: ASKED_A_MINUTE, standardHeaders: 'draft-7', legacyHeaders: false }));
  router.use(express.urlencoded({ extended: false, limit: '256kb' }));
  router.get('/:path', (req, res) => show(app, req, res));
  router.use('/:path', rateLimit({ windowMs: 3_600_000, limit: SENT_AN_HOUR, skip: (req) => req.method !== 'POST' }));
  router.post('/:path', (req, res) => take(app, req, res));
  return router;
}

/** A request form with the own fields that it asks for. */
type AskingForm = Row<'request_form'> & { readonly asks: OwnField[] };

async function formAt(app: App, path: string): Promise<AskingForm | undefined> {
  const form = await app.knex('request_form').where({ path }).whereNull('archived_at').first();
  const asks = (form?.fields ?? []).flatMap((id: Id<'own_field'>) => app.house.fieldsOn('ticket').filter((f) => f.id === id));
  return form && { ...form, asks };
}

async function show(app: App, req: Asked<{ path: string }>, res: Response): Promise<void> {
  const form = await formAt(app, req.params.path);
  if (!form) return notHere(app, res);
  outsidePage(app, { res, status: 200, body: written({ form, typed: {}, wrong: {} }) });
}

async function take(app: App, req: Asked<{ path: string }>, res: Response): Promise<void> {
  const form = await formAt(app, req.params.path);
  if (!form) return notHere(app, res);
  const typed = req.body as Typed;
  // Only machines fill what nobody sees; they are told what people are told.
  if (typed.website) return thanks(app, res, undefined);
  const read = readRequest(typed);
  if ('wrong' in read) return outsidePage(app, { res, status: 422, body: written({ form, typed, wrong: read.wrong }) });
  const values = form.asks.map((f) => ({ fieldId: f.id, value: valueOf(f, typed[f.id]) }));
  const done = await transact(app, { now: app.clock.now(), actor: byContact({ id: null, name: read.request.name }, 'page') }, (work) =>
    openByForm(work, app.house, { formId: form.id, asks: form.asks, request: read.request, values }),
  );
  if (isRefusal(done))
    return outsidePage(app, { res, status: 422, body: written({ form, typed, wrong: done.fields ?? {}, trouble: done.detail }) });
  thanks(app, res, done.number);
}

function readRequest(typed: Typed): { readonly request: Request } | { readonly wrong: Record<string, string> } {
  try {
    return { request: requestSchema.validateSync(typed, { abortEarly: false, stripUnknown: true }) };
  } catch (fault) {
    if (!(fault instanceof ValidationError)) throw fault;
    return { wrong: Object.fromEntries(fault.inner.map((e) => [e.path ?? '', e.errors[0] ?? 'not right'])) };
  }
}

function valueOf(field: OwnField, typed: string | undefined): string | boolean | null {
  if (!typed) return null;
  return field.kind === 'yes/no' ? typed === 'yes' : typed;
}

function thanks(app: App, res: Response, number: number | undefined): void {
  outsidePage(app, {
    res,
    status: 200,
    body: `<h1>Thank you, it has arrived</h1><p>${number ? `Your request has the number #${number}. ` : ''}We answer by mail, to the address you gave.</p>`,
  });
}

function notHere(app: App, res: Response): void {
  outsidePage(app, {
    res,
    status: 404,
    body: '<h1>There is no such form</h1><p>Perhaps its address has changed. Write us a mail, and we will help.</p>',
  });
}

function written({
  form,
  typed,
  wrong,
  trouble = '',
}: {
  readonly form: AskingForm;
  readonly typed: Typed;
  readonly wrong: Typed;
  readonly trouble?: string;
}): string {
  const row = (name: string, label: string, input: (id: string) => string) => {
    const error = wrong[name] ? `<span class="wrong" id="${name}-e">${escaped(wrong[name])}</span>` : '';
    return `<label for="${name}">${escaped(label)}</label>${input(name)}${error}`;
  };
  const text = (name: string, label: string, type = 'text') =>
    row(name, label, (id) => `<input id="${id}" name="${id}" type="${type}" value="${escaped(typed[name] ?? '')}">`);
  return `<h1>${escaped(form.name)}</h1><p>${escaped(form.intro)}</p>
    ${trouble || Object.keys(wrong).length ? `<p class="note" role="alert">${escaped(trouble || 'Something is missing or not right. Nothing you typed is lost.')}</p>` : ''}
    <form method="post" novalidate>
      ${text('name', 'Your name')}${text('email', 'Your mail address', 'email')}${text('subject', 'What is it about?')}
      ${form.asks.map((f) => row(f.id, f.name, (id) => inputOf(f, id, typed[id] ?? ''))).join('')}
      ${row('text', 'What do you need?', (id) => `<textarea id="${id}" name="${id}" rows="8">${escaped(typed.text ?? '')}</textarea>`)}
      <p class="trap" aria-hidden="true"><label for="website">Leave this empty</label><input id="website" name="website" tabindex="-1" autocomplete="off"></p>
      <button>Send it</button>
    </form>`;
}

function inputOf(field: OwnField, id: string, typed: string): string {
  const choices = field.kind === 'yes/no' ? ['yes', 'no'] : field.choices;
  if (choices.length)
    return `<select id="${id}" name="${id}"><option value="">choose …</option>${choices.map((c) => `<option${c === typed ? ' selected' : ''}>${escaped(c)}</option>`).join('')}</select>`;
  const type = { number: 'number', date: 'date' }[field.kind as 'number'] ?? 'text';
  return `<input id="${id}" name="${id}" type="${type}" step="any" value="${escaped(typed)}">`;
}
