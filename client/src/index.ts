/** A small typed client of the service, for Node and browsers. */
export { Client } from './client.js';
export { Follow, type FollowOptions, type LiveSocket } from './follow.js';
export { type ClientOptions, ServiceError, Unreachable, type Viewer } from './options.js';
