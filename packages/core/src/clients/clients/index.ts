export * from './client-facts';
export * from './clients-wire';
