/** What other domains use of this one. */
export { degrees } from './clients/coordinates';
