export { bookDay, type BookedLine } from './book-day.js';
export { ContractSchema, type Contract } from './contract.js';
export { trafficFile, trafficFileName } from './traffic-file.js';
