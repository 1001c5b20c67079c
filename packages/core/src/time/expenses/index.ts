export * from './worth-of-expense';
export * from './worth-of-distance';
export * from './expenses-wire';
