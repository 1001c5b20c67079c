export * from './own-conditions-wire';
