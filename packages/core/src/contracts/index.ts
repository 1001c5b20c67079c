export * from './choice';
export * from './contracts';
export * from './cover';
export * from './events';
export * from './own-rates';
export * from './prices';
export * from './recurring';
export * from './seats';
