import { refuse, type Refusal } from '@core/ground';
import type { Work } from '../../app/work';

/** A member moves with its umbrella alone: whoever wants to move it by itself detaches it first. */
export async function refuseMember(work: Work, ticket: { readonly umbrella_id: string | null }): Promise<Refusal | undefined> {
  if (!ticket.umbrella_id) return undefined;
  const umbrella = (await work.tx('ticket').where({ id: ticket.umbrella_id }).first('number'))!;
  return refuse('not-possible-now', `This is a member of umbrella #${umbrella.number} and moves with it. Detach it first.`);
}
