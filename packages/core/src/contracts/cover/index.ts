export * from './cover';
export * from './lots';
export * from './closed-work';
export * from './cover-work';
export * from './say-units';
