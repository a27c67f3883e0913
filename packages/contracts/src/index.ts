export * from './basics.js';
export * from './catalogue.js';
export * from './library.js';
export * from './logs.js';
export * from './tidy.js';
export * from './tags.js';
export * from './bulk.js';
export * from './plays.js';
