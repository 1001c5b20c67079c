/** What other domains use of this one. */
export { ViewMenu } from './views/view-menu';
