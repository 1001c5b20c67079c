export * from './names-others';
export * from './public-status';
export * from './umbrellas-wire';
