export * from './looks-like-fee';
export * from './flat-fees-wire';
