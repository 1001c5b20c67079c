export * from './happening';
export * from './say-event';
