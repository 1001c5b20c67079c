import { contractRoutes } from '@core/contracts';
import { dateOf, type Instant } from '@core/ground';
import type { App } from '../../app/app';
import { bindRoutes } from '../../app/bind-routes';
import { readStory } from '../../app/read-story';
import { addBlock, setGrant, takeGrantAway } from './contract-grants';
import { addLine, endLine, setLinePrice } from './contract-lines';
import { listContracts, readContract } from './contract-read-model';
import { addSeats, endSeat, takeOffSeats } from './contract-seats';
import { giveLineBack, takeLineAway } from './take-line-away';
import { addAllowance, agreeContract, createContract, editAllowance, editContract, setCover } from './contract-terms';

export function bindContracts(app: App) {
  const book = app.house;
  const today = (now: Instant) => dateOf(now, book.house.zone);
  return bindRoutes(app, contractRoutes, {
    listContracts: ({ db, now, query }) => listContracts(db, { today: today(now), currency: book.house.currency }, query),
    getContractStory: async ({ db, params, query }) => ({
      story: await readStory(db, { subject: 'contract', id: params.contractId, before: query.before }),
    }),
    getContract: ({ db, now, params }) => readContract(db, { book, today: today(now), contractId: params.contractId }),
    createContract: ({ work, body }) => createContract(work, body),
    editContract: ({ work, params, version, body }) => editContract(work, { ...params, version }, body),
    agreeContract: ({ work, params, version }) => agreeContract(work, { ...params, version }),
    addAllowance: ({ work, params, body }) => addAllowance(work, params.contractId, body),
    editAllowance: ({ work, params, version, body }) => editAllowance(work, { ...params, version }, body),
    setGrant: ({ work, params, body }) => setGrant(work, params, body),
    takeGrantAway: ({ work, params, body }) => takeGrantAway(work, params, body.from),
    addBlock: ({ work, params, body }) => addBlock(work, params, body),
    setCover: ({ work, params, version, body }) => setCover(work, { ...params, version }, body.rules),
    addLine: ({ work, params, body }) => addLine(work, params.contractId, body),
    setLinePrice: ({ work, params, body }) => setLinePrice(work, params, body),
    endLine: ({ work, params, version, body }) => endLine(work, params, { ...body, version }),
    takeLineAway: ({ work, params, version }) => takeLineAway(work, { ...params, version }),
    giveLineBack: ({ work, params, version }) => giveLineBack(work, { ...params, version }),
    addSeats: ({ work, params, body }) => addSeats(work, params, body),
    takeOffSeats: ({ work, params, body }) => takeOffSeats(work, params.contractId, body.seatIds),
    endSeat: ({ work, params, version, body }) => endSeat(work, params, { ...body, version }),
  });
}
