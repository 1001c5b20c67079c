export * from './assets';
export * from './clients';
export * from './events';
export * from './usage';
