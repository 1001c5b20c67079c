/** What other domains use of this one. */
export { ClientTerms } from './clients/client-terms';
export { houseTermsLines } from './clients/terms-lines';
