import type { RequestHandler } from 'express';
import { rateLimit } from 'express-rate-limit';
import { type Allowance, LONGEST_WAIT } from '../access/allowance.js';
import { addressOf, countedAs, type Guesses } from '../access/callers.js';
import { keyIn, rightIn } from '../access/rights.js';
import type { Config } from '../config.js';
import { Problem } from '../problems.js';
import { type Right, wasKnown } from '../storage/keys.js';

const tooMany = (): never => {
  throw new Problem('too-many', 'Too many requests: wait a minute.', { retryAfter: 60 });
};

const TOO_MUCH = 'This key asks more often than it may: wait for each answer.';

/** Who asks, found before anything else of a request is read. */
export interface Known {
  readonly address: string;
  /** A key that the service knows. */
  readonly key: string | null;
  readonly isDeveloper: boolean;
}

/**
 * Finds who asks, before a body is read: an address that tries many unknown keys waits, without a look into the
 * database.
 */
export function identify(config: Config, guesses: Guesses): RequestHandler {
  return (request, response, next) => {
    const address = countedAs(addressOf(request, config.proxies));
    const key = keyIn(request.headers);
    const go = (right: Right | null): void => {
      const isDeveloper = right?.role === 'developer';
      response.locals.caller = { address, key: right ? (key ?? null) : null, isDeveloper } satisfies Known;
      next();
    };
    if (key === undefined) return go(null);
    if (guesses.isOver(address) && !wasKnown(key))
      return next(
        new Problem('too-many', 'Too many unknown keys from this address: wait a minute.', { retryAfter: 60 }),
      );
    rightIn(request.headers).then((right) => {
      if (!right) guesses.failed(address);
      go(right);
    }, next);
  };
}

/** Slows down whoever asks more in a second than a key may, but for developers. @throws Problem where it asks much more */
export function pace(allowance: Allowance): RequestHandler {
  return (_request, response, next) => {
    const { key, isDeveloper } = response.locals.caller as Known;
    const wait = key === null || isDeveloper ? 0 : allowance.take(key);
    if (wait === 0) return next();
    if (wait > LONGEST_WAIT) return next(new Problem('too-many', TOO_MUCH, { retryAfter: Math.ceil(wait / 1_000) }));
    setTimeout(next, wait);
  };
}

/** Limits how much one key asks in a minute, and how much an address asks without one: each spends its own allowance. */
export function limits(config: Config): RequestHandler {
  return rateLimit({
    windowMs: 60_000,
    limit: (_request, response) => ((response.locals.caller as Known).key === null ? config.rate / 4 : config.rate),
    keyGenerator: (_request, response) => {
      const { address, key } = response.locals.caller as Known;
      return key === null ? `address ${address}` : `key ${key}`;
    },
    standardHeaders: 'draft-8',
    legacyHeaders: false,
    // The address is told by whom we trust, and of IPv6 only the network counts.
    validate: false,
    handler: tooMany,
  });
}
