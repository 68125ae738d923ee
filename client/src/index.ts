/** A small typed client of the service, for Node and browsers. */
export { Client, type ClientOptions, ServiceError, Unreachable, type Viewer } from './client.js';
export { Follow, type FollowOptions } from './follow.js';
