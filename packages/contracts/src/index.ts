export * from './basics.js';
export * from './catalogue.js';
export * from './library.js';
export * from './logs.js';
export * from './tidy.js';
export * from './plays.js';
