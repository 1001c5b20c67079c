import type { Response } from 'express';
import type { Refusal, RefusalReason } from '@core/ground';

/** The one mapping from refusals to HTTP. */
const STATUS: Readonly<Record<RefusalReason, number>> = {
  'not-found': 404,
  'not-allowed': 403,
  invalid: 422,
  'changed-meanwhile': 412,
  'not-possible-now': 409,
  'already-used': 409,
  'too-often': 429,
};
const TITLE: Readonly<Record<RefusalReason, string>> = {
  'not-found': 'Not found',
  'not-allowed': 'Not allowed',
  invalid: 'Something given is not right',
  'changed-meanwhile': 'Changed meanwhile',
  'not-possible-now': 'Not possible now',
  'already-used': 'Used already',
  'too-often': 'Too many tries',
};

/** RFC 9457 problem details. */
export interface Problem {
  readonly type: string;
  readonly title: string;
  readonly status: number;
  readonly detail: string;
  readonly fields?: Readonly<Record<string, string>>;
}

export function problemOf(refusal: Refusal): Problem {
  const { refused, detail, fields } = refusal;
  return { type: `urn:drumline:problem:${refused}`, title: TITLE[refused], status: STATUS[refused], detail, ...(fields ? { fields } : {}) };
}

export function problem({
  status,
  type,
  title,
  detail,
}: {
  readonly status: number;
  readonly type: string;
  readonly title: string;
  readonly detail: string;
}): Problem {
  return { type: `urn:drumline:problem:${type}`, title, status, detail };
}

export function sendProblem(res: Response, given: Problem): void {
  res.status(given.status).type('application/problem+json').send(JSON.stringify(given));
}
