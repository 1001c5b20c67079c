export * from './route';
export * from './fields';
export * from './page';
export * from './measure';
export * from './record-numbers';
