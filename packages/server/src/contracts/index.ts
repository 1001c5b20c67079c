/** What other domains use of this one. */
export { readOffered } from './contracts/read-offered';
export { type NamedTerms, readCoverTerms } from './cover/read-cover-terms';
export { readLines, type StoredLine } from './recurring/read-lines';
