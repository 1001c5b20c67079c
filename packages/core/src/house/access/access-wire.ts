import { string } from 'yup';
import {
  ACCESS_ROLES,
  count,
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
  type Permission,
  record,
  shape,
  text,
  type Wire,
  yes,
} from '../../ground';

export const personSchema = record({
  id: id('person'),
  name: text(),
  role: oneOf(ACCESS_ROLES),
  gradeId: optionalId('grade'),
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
  /** The divisions in which this person has a role. */
  divisions: list(record({ id: id('division'), name: text() })),
  /** Opening a ticket starts its timer. */
  timerOnOpen: yes(),
  /** The server's clock, which the demo sets. */
  now: instant(),
  /** The number of the last live change by now: what comes after it is asked for, so nothing falls between. */
  liveAt: count(),
});
export type MeWire = Wire<typeof meSchema>;

export const signInSchema = record({ email: email(), password: string().defined().required('write your password').max(200) });
const LEAST_PASSWORD = 12;
/** A password that is set: as NIST SP 800-63B asks, its length counts and nothing of its letters. */
const newPassword = () =>
  string()
    .defined()
    .required('write a new password')
    .min(LEAST_PASSWORD, `at least ${LEAST_PASSWORD} characters`)
    .max(200, 'at most 200 characters');
const knownPassword = () => string().defined().required('write your password').max(200);
export const changePasswordSchema = record({ current: knownPassword(), password: newPassword() });
export const askForResetSchema = record({ email: email() });
export const resetPasswordSchema = record({ token: string().defined().required().max(100), password: newPassword() });

export const newTokenSchema = record({ label: text(80) });
export const tokenSchema = record({
  id: id('api_token'),
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
    ownTransactions: true,
    body: signInSchema,
    answer: record({ signedIn: yes() }),
  },
  signOut: { method: 'DELETE', path: '/session', summary: 'Sign out', permission: 'signed in', ownTransactions: true, answer: nothing() },
  changePassword: {
    method: 'PUT',
    path: '/session/password',
    summary: 'Change your password; your other sessions end',
    permission: 'signed in',
    secret: true,
    body: changePasswordSchema,
    answer: record({ ended: count() }),
  },
  askForReset: {
    method: 'POST',
    path: '/password-resets',
    summary: 'Have a link mailed by which a new password can be set; the answer is the same whether there is such a person or not',
    permission: 'open',
    ownTransactions: true,
    body: askForResetSchema,
    answer: record({ asked: yes() }),
  },
  makeResetLink: {
    method: 'POST',
    path: '/people/:personId/password-reset',
    summary: 'Make a link by which somebody sets a new password, once, within a day',
    permission: 'setup.edit',
    secret: true,
    answer: record({ address: text(500), until: instant() }),
  },
  resetPassword: {
    method: 'POST',
    path: '/password-resets/use',
    summary: 'Set a new password by a link; all sessions of the person end',
    permission: 'open',
    ownTransactions: true,
    body: resetPasswordSchema,
    answer: record({ set: yes() }),
  },
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
    ownTransactions: true,
    body: record({ personId: id('person') }),
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
    secret: true,
    body: newTokenSchema,
    answer: record({ id: id('api_token'), secret: text() }),
  },
  revokeToken: { method: 'DELETE', path: '/tokens/:tokenId', summary: 'Revoke an API token', permission: 'tokens.own', answer: nothing() },
});
