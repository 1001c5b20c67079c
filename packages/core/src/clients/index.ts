export * from './assets';
export * from './clients';
export * from './events';
