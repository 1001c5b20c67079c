export * from './never-charged-wire';
