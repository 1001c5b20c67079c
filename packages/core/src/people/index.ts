export * from './people-wire';
