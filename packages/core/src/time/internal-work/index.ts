export * from './internal-work-wire';
