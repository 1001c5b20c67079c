export * from './story-wire';
