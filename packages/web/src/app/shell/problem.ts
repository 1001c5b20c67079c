/** RFC 9457 problem details as the server sends them, or as the web says that it could not be reached. */
export interface Problem {
  readonly type: string;
  readonly title: string;
  readonly status: number;
  readonly detail: string;
  readonly fields?: Readonly<Record<string, string>>;
}

export class ProblemError extends Error {
  constructor(readonly problem: Problem) {
    super(problem.detail);
  }
}

export const UNREACHABLE: Problem = {
  type: 'urn:drumline:problem:unreachable',
  title: 'No connection',
  status: 0,
  detail: 'Drumline cannot be reached. What you typed is kept. Send it again once the connection is back.',
};

export function problemOf(fault: unknown): Problem {
  return fault instanceof ProblemError
    ? fault.problem
    : { type: 'urn:drumline:problem:web', title: 'Something broke here', status: -1, detail: String(fault) };
}
