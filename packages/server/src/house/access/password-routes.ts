import { accessRoutes } from '@core/house';
import { formatInstant, type Id, instantOfMillis, isRefusal, type Outcome, refuse } from '@core/ground';
import type { App } from '../../app/app';
import { prepared, type Handlers } from '../../app/bind-routes';
import { at, type Db } from '../../app/database';
import { byNobody } from '../../app/actor';
import { transact, type Work } from '../../app/work';
import { checkPassword, hashPassword } from './passwords';
import { hashSecret, isSecret, makeSecret, tokenOf } from './secret-address';
import { triedTooOften } from './sign-in-limits';

const HOURS = 24;
const RESET = byNobody('page');
const resetAddress = (app: App, nonce: string) => `${app.config.PUBLIC_URL}/password?token=${tokenOf(app, 'password', nonce)}`;

type Names = 'changePassword' | 'askForReset' | 'makeResetLink' | 'resetPassword';

/** Passwords are changed by who knows them, and set anew by a link that works once. */
export function passwordHandlers(app: App): Pick<Handlers<typeof accessRoutes>, Names> {
  return {
    changePassword: prepared(accessRoutes.changePassword)(
      async ({ db, body, actor, req, now }) => {
        const person = (await db('person').where({ id: actor.personId! }).first('email', 'password_hash'))!;
        const asking = { email: person.email, address: req.ip ?? null };
        if (await triedTooOften(db, asking)) return tooOften();
        if (!(await checkPassword(person.password_hash, body.current))) {
          await db('sign_in').insert({ ...asking, at: at(now), person_id: actor.personId, way: 'change', ok: false });
          return refuse('invalid', 'That is not your password.', { current: 'the password you sign in with now' });
        }
        return { hash: await hashPassword(body.password) };
      },
      async ({ work, actor, req }, { hash }) => {
        await work.tx('person').where({ id: actor.personId! }).update({ password_hash: hash });
        await work.tell('person.password-changed', actor.personId!, {});
        return { ended: await endSessions(work, actor.personId!, req.sessionID) };
      },
    ),
    askForReset: async ({ db, body, req, now }) => {
      const asking = { email: body.email, address: req.ip ?? null };
      // Each counts as a try, so that nobody's box is filled.
      if (await triedTooOften(db, asking)) return { asked: true };
      const person = await db('person').where({ email: body.email, active: true }).first('id');
      await db('sign_in').insert({ ...asking, at: at(now), person_id: person?.id ?? null, way: 'reset asked', ok: false });
      if (!person) return { asked: true };
      await transact(app, { now, actor: RESET }, async (work) => {
        const id = await makeReset(app, work, { personId: person.id, madeBy: null });
        await work.enqueue('mail-reset', { resetId: id }, { key: `mail-reset:${id}` });
        return {};
      });
      return { asked: true };
    },
    makeResetLink: async ({ work, params, actor }) => {
      const person = await work.tx('person').where({ id: params.personId, active: true }).first('name');
      if (!person) return refuse('not-found', 'There is no such person.');
      const id = await makeReset(app, work, { personId: params.personId, madeBy: actor.personId });
      const { nonce } = (await work.tx('password_reset').where({ id }).first('nonce'))!;
      await work.tell('person.reset-link-made', params.personId, {});
      return { address: resetAddress(app, nonce), until: formatInstant(instantOfMillis(Date.now() + HOURS * 3_600_000)) };
    },
    resetPassword: async ({ db, body, req, now }) => {
      const asking = { email: 'link', address: req.ip ?? null };
      if (await triedTooOften(db, asking)) return tooOften();
      const known = isSecret(body.token) && (await standing(db, body.token).first('id'));
      if (!known) {
        await db('sign_in').insert({ ...asking, at: at(now), way: 'reset used', ok: false });
        return worthNothing();
      }
      const hash = await hashPassword(body.password);
      const done = await transact(app, { now, actor: RESET }, async (work) => {
        const [used] = await standing(work.tx, body.token).update({ used_at: work.tx.fn.now() }).returning(['person_id']);
        if (!used) return worthNothing();
        await work.tx('person').where({ id: used.person_id }).update({ password_hash: hash });
        await work.tell('person.password-reset', used.person_id, {});
        await endSessions(work, used.person_id, undefined);
        return { set: true };
      });
      return isRefusal(done) ? done : { set: true };
    },
  };
}

/** Job: mails the link; what is queued names the reset, and never the secret. */
export async function mailReset(app: App, { resetId }: { resetId: string }): Promise<void> {
  const reset = await app
    .knex('password_reset as r')
    .join('person as p', 'p.id', 'r.person_id')
    .where('r.id', resetId)
    .whereNull('r.used_at')
    .first('r.nonce', 'p.name', 'p.email');
  if (!reset) return;
  const { provider, mailFrom } = app.house.house;
  await app.mail.send({
    from: { name: provider, address: mailFrom },
    to: [reset.email],
    cc: [],
    subject: 'Set a new password',
    text: `${reset.name},\n\nsomebody asked for a new password for you at Drumline. Set it here, once, within ${HOURS} hours:\n${resetAddress(app, reset.nonce)}\n\nIf that was not you, do nothing: your password stays.`,
    messageId: `<reset.${resetId}@${mailFrom.split('@')[1]}>`,
    inReplyTo: undefined,
    references: [],
    headers: { 'Auto-Submitted': 'auto-generated' },
    attachments: [],
  });
}

/** A newer link makes earlier ones worth nothing. */
async function makeReset(
  app: App,
  work: Work,
  { personId, madeBy }: { readonly personId: Id<'person'>; readonly madeBy: string | null },
): Promise<string> {
  await work.tx('password_reset').where({ person_id: personId }).whereNull('used_at').update({ used_at: work.tx.fn.now() });
  const [row] = await work
    .tx('password_reset')
    .insert({ ...makeSecret(app, 'password'), person_id: personId, made_by: madeBy })
    .returning('id');
  return row!.id;
}

function standing(db: Db, token: string) {
  return db('password_reset')
    .where({ token_hash: hashSecret(token) })
    .whereNull('used_at')
    .whereRaw('made_at > now() - make_interval(hours => ?)', [HOURS]);
}

/** Ends somebody's sessions, save the one named, and the streams opened by them. */
async function endSessions(work: Work, personId: Id<'person'>, but: string | undefined): Promise<number> {
  const ended = await work
    .tx('session')
    .whereRaw(`sess -> 'who' ->> 'id' = ?`, [personId])
    .modify((q) => but && void q.whereNot('sid', but))
    .delete();
  await work.emit('access', personId);
  return ended;
}

export function tooOften(): Outcome<never> {
  return refuse('too-often', 'Too many tries that failed. Wait a quarter of an hour.');
}

function worthNothing(): Outcome<never> {
  return refuse('invalid', 'This link is worth nothing any more: it was used, a newer one was made, or a day has passed.', {
    token: 'a newer link',
  });
}
