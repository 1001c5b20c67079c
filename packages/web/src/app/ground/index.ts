/** What other domains use of this one. */
export { KnownFacts } from './conditions/known-facts';
export { ruleNames } from './conditions/rule-names';
export { ComposerFiles } from './uploads/composer-files';
