export * from './travel-minutes';
export * from './travel-of-day';
export * from './travel-wire';
