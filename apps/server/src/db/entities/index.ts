export * from './station.js';
export * from './library.js';
export * from './scheduling.js';
export * from './log.js';
export * from './activity.js';
export * from './output.js';
export * from './traffic.js';
export * from './on-air.js';
