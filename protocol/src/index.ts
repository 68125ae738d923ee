/** The words between the service and its clients. */
export { openapi } from './openapi/openapi.js';
export * from './schemas/index.js';
