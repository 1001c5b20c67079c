export * from './travel-minutes';
export * from './travel-wire';
