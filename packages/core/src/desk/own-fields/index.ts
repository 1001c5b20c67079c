export * from './field-record';
export * from './own-field';
export * from './own-fields-wire';
