// How the service's process is started.
import { join } from 'node:path';
import { ROOT } from './machine.mjs';

/**
 * What follows `node`. Views and messages live for a moment: with more room for young objects (in MiB) than Node gives
 * of itself, they are collected a quarter as often, and those that are still needed are copied as seldom.
 */
export const SERVICE = ['--max-semi-space-size=64', join(ROOT, 'service/dist/main.js')];
