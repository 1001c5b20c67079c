import type { Db } from '../../app/database';

/** Within a quarter of an hour, of tries that failed. */
const WINDOW_MINUTES = 15;
/** Of one account from one address: who guesses is stopped, and whoever owns the account is not, elsewhere. */
const MOST_OF_BOTH = 10;
/** Of one account from anywhere, and of one address for any account: many people may share one. */
const MOST_OF_ACCOUNT = 60;
const MOST_OF_ADDRESS = 120;

export interface Try {
  readonly email: string;
  readonly address: string | null;
}

/** Whether somebody has failed too often of late. Counted in the database, so that all processes count together. */
export async function triedTooOften(db: Db, { email, address }: Try): Promise<boolean> {
  const { rows } = await db.raw(
    `select count(*) filter (where lower(email) = lower(?)) as account, count(*) filter (where address = ?) as address,
            count(*) filter (where lower(email) = lower(?) and address = ?) as both
     from sign_in where not ok and tried_at > now() - make_interval(mins => ?) and (lower(email) = lower(?) or address = ?)`,
    [email, address, email, address, WINDOW_MINUTES, email, address] as never,
  );
  const { account, address: ofAddress, both } = rows[0];
  return Number(both) >= MOST_OF_BOTH || Number(account) >= MOST_OF_ACCOUNT || Number(ofAddress) >= MOST_OF_ADDRESS;
}
