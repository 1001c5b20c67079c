/** What other domains use of this one. */
export { type Offered, readOffered } from './choice/read-offered';
export { type NamedTerms, readCoverTerms } from './cover/read-cover-terms';
export { type OwnRoundings, readRoundingsOf } from './own-rates/own-rates';
export { readClientSeats } from './seats/read-client-seats';
export { readLines, readSeats, type StoredLine } from './recurring/read-lines';
