export * from './openings-wire';
