import { string } from 'yup';
import {
  currency,
  defineRoutes,
  email,
  id,
  instant,
  list,
  nothing,
  oneOf,
  optionalId,
  optionalInstant,
  optionalText,
  record,
  shape,
  text,
  yes,
  type Wire,
} from '../routes';
import { ACCESS_ROLES, type Permission } from '../permissions';

export const personSchema = record({
  id: id(),
  name: text(),
  role: oneOf(ACCESS_ROLES),
  gradeId: optionalId(),
  grade: optionalText(),
  technician: yes(),
});
export type PersonWire = Wire<typeof personSchema>;

export const meSchema = record({
  person: personSchema,
  permissions: shape<Permission[]>(),
  /** To be sent back as X-CSRF-Token with every command. */
  csrf: text(),
  zone: text(),
  currency: currency(),
  demo: yes(),
  /** Opening a ticket starts its timer. */
  timerOnOpen: yes(),
  /** The server's clock, which the demo sets. */
  now: instant(),
});
export type MeWire = Wire<typeof meSchema>;

export const signInSchema = record({ email: email(), password: string().defined().required('write your password').max(200) });
export const newTokenSchema = record({ label: text(80) });
export const tokenSchema = record({
  id: id(),
  label: text(),
  person: text(),
  createdAt: instant(),
  lastUsedAt: optionalInstant(),
  revokedAt: optionalInstant(),
});
export type TokenWire = Wire<typeof tokenSchema>;

export const accessRoutes = defineRoutes({
  getSession: { method: 'GET', path: '/session', summary: 'Who is signed in', permission: 'signed in', answer: meSchema },
  signIn: {
    method: 'POST',
    path: '/session',
    summary: 'Sign in with address and password',
    permission: 'open',
    body: signInSchema,
    answer: record({ signedIn: yes() }),
  },
  signOut: { method: 'DELETE', path: '/session', summary: 'Sign out', permission: 'signed in', answer: nothing() },
  listDemoPeople: {
    method: 'GET',
    path: '/demo/people',
    summary: 'People of the demo; empty unless the demo runs',
    permission: 'open',
    answer: record({ people: list(personSchema) }),
  },
  enterDemo: {
    method: 'POST',
    path: '/demo/enter',
    summary: 'Enter the demo as one of its people',
    permission: 'open',
    body: record({ personId: id() }),
    answer: record({ signedIn: yes() }),
  },
  listPeople: {
    method: 'GET',
    path: '/people',
    summary: 'People of the provider',
    permission: 'signed in',
    answer: record({ people: list(personSchema) }),
  },
  listTokens: {
    method: 'GET',
    path: '/tokens',
    summary: 'API tokens: your own, or all for those who keep Setup',
    permission: 'tokens.own',
    answer: record({ tokens: list(tokenSchema) }),
  },
  createToken: {
    method: 'POST',
    path: '/tokens',
    summary: 'Make an API token with your rights; it is shown once',
    permission: 'tokens.own',
    body: newTokenSchema,
    answer: record({ id: id(), secret: text() }),
  },
  revokeToken: { method: 'DELETE', path: '/tokens/:tokenId', summary: 'Revoke an API token', permission: 'tokens.own', answer: nothing() },
});
