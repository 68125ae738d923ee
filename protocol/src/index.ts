/** The words between the service and its clients. */
export { openapi } from './openapi/openapi.js';
export { RELEASE } from './release.js';
export * from './schemas/index.js';
