/** What other domains use of this one. */
export { ViewMenu } from './views/view-menu';
export { costRatesSection } from './cost-rates/cost-rates.section';
