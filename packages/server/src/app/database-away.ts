/**
 * What PostgreSQL, its driver and the pool say when the database is away or has no place: SQLSTATE classes of
 * connections (08), of too little of something (53) and of a server that goes (57P), and words where there is no code.
 */
const CODES = /^(08\w{3}|53\w{3}|57P0\d|ECONNREFUSED|ECONNRESET|EPIPE|ETIMEDOUT)$/;
const WORDS =
  /ECONNREFUSED|ECONNRESET|EPIPE|Connection (terminated|ended|lost)|terminating connection|connection error and is not queryable|the database system is|not currently accepting|Timeout acquiring|timeout (exceeded|expired)|server closed the connection|Client was closed|too many clients|remaining connection slots|Unable to acquire a connection/i;

/** Whether a fault is that the database is away: then nothing was done, and trying again later helps. */
export function databaseIsAway(fault: unknown): boolean {
  if (!(fault instanceof Error)) return false;
  const { code } = fault as { code?: unknown };
  if (typeof code === 'string' && CODES.test(code)) return true;
  return WORDS.test(fault.message) && !(typeof code === 'string' && /^(2|42)/.test(code));
}
