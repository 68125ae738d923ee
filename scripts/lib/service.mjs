// How the service's process is started.
import { bundleOf } from './bundles.mjs';

/**
 * What follows `node`. Views and messages live for a moment: with more room for young objects (in MiB) than Node gives
 * of itself, they are collected a quarter as often, and those that are still needed are copied as seldom. What stays is
 * little and grows slowly: until it takes so many MiB, nobody at the tables waits for a whole collection.
 */
export const SERVICE = ['--max-semi-space-size=64', '--initial-old-space-size=256', bundleOf('service', 'main')];
