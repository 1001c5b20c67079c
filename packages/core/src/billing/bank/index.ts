export * from './bank-statement';
export * from './read-camt';
export * from './read-bank-rows';
export * from './propose-match';
export * from './bank-wire';
