/** What other domains use of this one. */
export { attachUploads } from './uploads/uploads';
export { namedWork, readMeantWork, readWorkFacts, type WorkedRow, type WorkFacts } from './work/work-facts';
