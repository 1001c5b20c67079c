export * from './catalogue';
export * from './events';
