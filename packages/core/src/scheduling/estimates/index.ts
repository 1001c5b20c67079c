export * from './learn-estimates';
export * from './estimate';
