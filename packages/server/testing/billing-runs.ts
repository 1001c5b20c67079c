import type { Script } from './test-server';

/** Billing runs as somebody of billing makes them. */
export function runsBy(script: Script) {
  const run = (runId: string) => script.do('getRun', { params: { runId } });
  const until = async (runId: string, ...states: string[]) => {
    for (;;) {
      const now = await run(runId);
      if (states.includes(now.state)) return now;
      await new Promise((later) => setTimeout(later, 40));
    }
  };
  /** A run for a day in which all clients were looked at. */
  const prepare = async (on: string) => {
    const { id } = await script.do('prepareRun', { body: { on } });
    await until(id, 'ready');
    return id;
  };
  const invoices = async (runId: string) => (await script.do('listRunInvoices', { params: { runId } })).rows;
  /** Ends the run that is open, if one is. */
  const endRun = async () => {
    const [open] = (await script.do('listRuns', { query: { open: 'true' } })).rows;
    if (!open) return;
    const { state } = await until(open.id, 'ready', 'done');
    if (state === 'ready') await script.do('putRunAway', { params: { runId: open.id } });
  };
  /** Asks for some invoices of a run to be issued, or for all that can be, as they are seen. */
  const issue = async (runId: string, ids: string[] | null = null) => {
    const rows = (await invoices(runId)).filter(
      (i) => ['proposed', 'changed', 'failed'].includes(i.state) && i.charges > 0 && (!ids || ids.includes(i.id)),
    );
    const body = { ids, invoices: rows.length, netMinor: rows.reduce((sum, r) => sum + r.net.minor, 0) };
    return script.ask('issueRun', { params: { runId }, body });
  };
  return { run, until, prepare, invoices, endRun, issue };
}
