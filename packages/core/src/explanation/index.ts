export * from './explanation';
