export * from './choose-mail-rule';
export * from './mail-rules-wire';
