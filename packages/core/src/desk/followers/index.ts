export * from './find-mentions';
export * from './followers-wire';
