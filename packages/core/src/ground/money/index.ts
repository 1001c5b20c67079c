export * from './money';
export * from './round-to-minor';
export * from './scaled';
export * from './sum-money';
export * from './allocate';
export * from './parse-money';
export * from './format-money';
export * from './format-unit-price';
