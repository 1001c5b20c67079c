import type { ErrorRequestHandler } from 'express';
import type { App } from './app';
import { problemOfFault } from './fault-problems';
import { problem, sendProblem } from './problems';

/** Faults say what a person can do, and never the database's words. */
export function answerFault(app: App): ErrorRequestHandler {
  // eslint-disable-next-line max-params -- Express knows what answers faults by its four parameters
  return (fault: unknown, req, res, next) => {
    if (res.headersSent) return next(fault);
    const known = problemOfFault(fault);
    if (known) return sendProblem(res, known);
    app.log.error({ fault, requestId: req.id, method: req.method, path: req.path }, 'a fault while answering');
    return sendProblem(
      res,
      problem({
        status: 500,
        type: 'fault',
        title: 'Something broke here',
        detail: `Nothing was saved. The fault is in the log as request ${req.id}; try again, and tell whoever keeps Drumline if it stays.`,
      }),
    );
  };
}
