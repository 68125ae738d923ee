import { createHmac } from 'node:crypto';
import type { Mac } from '@wily-jester/core';

/** HMAC-SHA-256 by the machine's own library: every choice's digest takes one. */
export const nativeMac: Mac = (key, text) => createHmac('sha256', key).update(text).digest('hex');
