export * from './settings-wire';
