export * from './condition';
export * from './condition-facts';
export * from './rule';
export * from './say-rule';
