export * from './access';
export * from './events';
export * from './house';
export * from './jobs';
export * from './notices';
export * from './people';
export * from './search';
export * from './views';
