/** The service, for those who start it inside their own process: tests and benchmarks. */
export type { Config } from './config.js';
export { type Service, startService } from './service.js';
