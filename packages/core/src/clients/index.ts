export * from './assets';
export * from './clients';
export * from './usage';
