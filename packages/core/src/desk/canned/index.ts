export * from './canned-wire';
