export * from './people-wire';
export * from './working-time';
