export * from './route';
export * from './fields';
export * from './page';
