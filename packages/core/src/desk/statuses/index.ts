export * from './own-status';
export * from './statuses-wire';
