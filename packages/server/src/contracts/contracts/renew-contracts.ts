import { goesOnUntil, noticeBy, TOLD_BEFORE_NOTICE } from '@core/contracts';
import { dateOf, type LocalDate, plusDays } from '@core/ground';
import type { App } from '../../app/app';
import { byJob } from '../../app/actor';
import { at } from '../../app/database';
import type { Row } from '../../app/rows';
import { type Work, makeWork } from '../../app/work';
import { tellRole } from '../../house';

const JOB = byJob('contracts that go on');

/** Job, every night: what goes on by itself goes on before it would end; of a notice day that comes, account managers are told once. */
export async function renewContracts(app: App): Promise<void> {
  const now = app.clock.now();
  const tomorrow = plusDays(dateOf(now, app.house.house.zone), 1);
  await app.knex.transaction(async (tx) => {
    const work = makeWork({ tx, now, actor: JOB, book: app.house });
    const ending: Row<'contract'>[] = await tx('contract')
      .where({ renewal: 'goes on' })
      .whereNotNull('agreed_at')
      .whereNotNull('ends_on')
      .forNoKeyUpdate();
    for (const contract of ending) {
      const to = goesOnUntil(contract.ends_on!, { termMonths: contract.term_months, on: tomorrow });
      if (to !== contract.ends_on) await goOn(work, contract, to);
    }
    const agreed: Row<'contract'>[] = await tx('contract')
      .whereNotNull('agreed_at')
      .where('ends_on', '>', tomorrow)
      .whereNull('notice_told_at');
    for (const contract of agreed) {
      const by = noticeBy(contract.ends_on!, contract.notice_days);
      if (plusDays(by, -TOLD_BEFORE_NOTICE) <= tomorrow && by >= tomorrow) await tellOfNotice(work, contract, by);
    }
  });
}

async function goOn(work: Work, { id }: Row<'contract'>, to: LocalDate): Promise<void> {
  const set = { ends_on: to, notice_told_at: null, version: work.tx.raw('version + 1') };
  await work.tx('contract').where({ id }).update(set);
  await work.tell('contract.went-on', id, { to });
}

async function tellOfNotice(work: Work, contract: Row<'contract'>, by: LocalDate): Promise<void> {
  await work
    .tx('contract')
    .where({ id: contract.id })
    .update({ notice_told_at: at(work.now) });
  const then = contract.renewal === 'goes on' ? 'Then it goes on by itself.' : 'Then it ends.';
  const text = `${contract.number} ${contract.name} ends on ${plusDays(contract.ends_on!, -1)}; notice can be given until ${by}. ${then}`;
  await tellRole(work, { divisionId: contract.division_id, role: 'account manager', text });
}
