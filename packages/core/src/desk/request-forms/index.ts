export * from './request-forms-wire';
