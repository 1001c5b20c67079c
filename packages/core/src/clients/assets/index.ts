export * from './asset-facts';
export * from './assets-wire';
