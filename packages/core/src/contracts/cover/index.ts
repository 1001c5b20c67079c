export * from './cover';
export * from './lots';
export * from './cover-work';
export * from './say-units';
