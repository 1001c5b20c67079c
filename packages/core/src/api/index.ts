export * from './api-routes';
