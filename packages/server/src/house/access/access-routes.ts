import { accessRoutes, type PersonWire } from '@core/house';
import { type AccessRole, formatInstant, holds, permissionsAnywhere, refuse } from '@core/ground';
import type { App } from '../../app/app';
import { bindRoutes } from '../../app/bind-routes';
import { at, wireAt, type Db } from '../../app/database';
import type { Row } from '../../app/rows';
import { beginSession, endSession } from './identify';
import { passwordHandlers, tooOften } from './password-routes';
import { checkPassword } from './passwords';
import { triedTooOften } from './sign-in-limits';
import { createToken } from './tokens';

export function bindAccess(app: App) {
  return bindRoutes(app, accessRoutes, {
    getSession: async ({ db, actor, req, now }) => {
      const access = req.access!;
      const [person] = await readPeople(db, actor.personId!);
      return {
        person: person!,
        permissions: permissionsAnywhere(access, app.house.divisionIds),
        csrf: req.session?.csrf ?? 'api',
        zone: app.house.house.zone,
        currency: app.house.house.currency,
        demo: app.house.house.demo !== null,
        divisions: await db('division')
          .modify((q) => actor.divisions && void q.whereIn('id', [...actor.divisions]))
          .orderBy('name')
          .select('id', 'name'),
        timerOnOpen: (await db('person').where({ id: actor.personId! }).first('timer_on_open'))!.timer_on_open,
        now: formatInstant(now),
        liveAt: (await db('outbox_position').first('last_seq'))!.last_seq,
      };
    },
    ...passwordHandlers(app),
    // One connection at a time, none while it hashes: strangers cannot take those of people at work.
    signIn: async ({ db, body, req, now }) => {
      if (!req.session) return byToken();
      const asking = { email: body.email, address: req.ip ?? null };
      if (await triedTooOften(db, asking)) return tooOften();
      const person = (await db('person').where({ email: body.email, active: true }).first('id', 'password_hash'))!;
      const ok = await checkPassword(person?.password_hash, body.password);
      await db('sign_in').insert({ ...asking, at: at(now), person_id: person?.id ?? null, way: 'password', ok });
      if (!ok)
        return refuse('invalid', 'Address and password do not fit together.', {
          password: 'try again; after ten wrong tries wait a quarter of an hour',
        });
      await beginSession(req, person.id);
      return { signedIn: true };
    },
    signOut: async ({ req, db, actor, now }) => {
      await endSession(req);
      await db('outbox').insert({ topic: 'access', subject_id: actor.personId, payload: '{}', at: at(now) });
      return {};
    },
    listDemoPeople: async ({ db }) => ({ people: app.house.house.demo ? await readPeople(db) : [] }),
    enterDemo: async ({ db, body, req, now }) => {
      if (!req.session) return byToken();
      if (!app.house.house.demo) return refuse('not-allowed', 'This is not the demo: sign in with your password.');
      const person = await db('person').where({ id: body.personId, active: true }).first('id', 'email');
      if (!person) return refuse('not-found', 'The demo has no such person.');
      await db('sign_in').insert({
        at: at(now),
        email: person.email,
        person_id: person.id,
        way: 'demo',
        ok: true,
        address: req.ip ?? null,
      });
      await beginSession(req, person.id);
      return { signedIn: true };
    },
    listPeople: async ({ db }) => ({ people: await readPeople(db) }),
    listTokens: async ({ db, actor }) => {
      const all = holds(actor.role as AccessRole, 'setup.read');
      const rows = await db('api_token as t')
        .join('person as p', 'p.id', 't.person_id')
        .modify((q) => !all && void q.where('t.person_id', actor.personId))
        .orderBy('t.created_at', 'desc')
        .select('t.*', 'p.name');
      return {
        tokens: rows.map(
          (t: Row<'api_token', 'id' | 'label' | 'created_at' | 'last_used_at' | 'revoked_at'> & { readonly name: string }) => ({
            id: t.id,
            label: t.label,
            person: t.name,
            createdAt: formatInstant(t.created_at),
            lastUsedAt: wireAt(t.last_used_at),
            revokedAt: wireAt(t.revoked_at),
          }),
        ),
      };
    },
    createToken: async ({ work, actor, body, now }) => {
      const token = await createToken(work.tx, { personId: actor.personId!, label: body.label, now });
      await work.tell('person.token-made', actor.personId!, { label: body.label });
      return token;
    },
    revokeToken: async ({ work, params, actor, now }) => {
      const own = !holds(actor.role as AccessRole, 'setup.edit');
      const [row] = await work
        .tx('api_token')
        .where({ id: params.tokenId })
        .whereNull('revoked_at')
        .modify((q) => own && void q.where({ person_id: actor.personId! }))
        .update({ revoked_at: at(now) })
        .returning(['person_id', 'label']);
      if (!row) return refuse('not-found', 'There is no such token that is still good.');
      await work.tell('person.token-revoked', row.person_id, { label: row.label });
      await work.emit('access', row.person_id);
      return {};
    },
  });
}

/** A session is for a browser; who shows a token needs none. */
function byToken() {
  return refuse('not-possible-now', 'Sign in without an Authorization header: a token needs no session.');
}

async function readPeople(db: Db, only?: string): Promise<PersonWire[]> {
  const rows: (Row<'person', 'id' | 'name' | 'role' | 'grade_id' | 'technician'> & { readonly grade: string | null })[] = await db(
    'person as p',
  )
    .leftJoin('grade as g', 'g.id', 'p.grade_id')
    .where({ 'p.active': true })
    .modify((q) => only && void q.where('p.id', only))
    .orderBy('p.name')
    .select('p.id', 'p.name', 'p.role', 'p.grade_id', 'p.technician', 'g.name as grade');
  return rows.map((p) => ({
    id: p.id,
    name: p.name,
    role: p.role,
    gradeId: p.grade_id,
    grade: p.grade,
    technician: p.technician,
  }));
}
