export * from './route';
export * from './fields';
