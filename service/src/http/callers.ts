import type { RequestHandler } from 'express';
import { rateLimit } from 'express-rate-limit';
import { addressOf, countedAs, type Guesses } from '../access/callers.js';
import { keyIn, rightIn } from '../access/rights.js';
import type { Config } from '../config.js';
import { Problem } from '../problems.js';
import { wasKnown } from '../storage/keys.js';

const tooMany = (): never => {
  throw new Problem('too-many', 'Too many requests: wait a minute.', { retryAfter: 60 });
};

/** Who asks, found before anything else of a request is read. */
interface Known {
  readonly address: string;
  /** A key that the service knows. */
  readonly key: string | null;
}

/**
 * Finds who asks, before a body is read: an address that tries many unknown keys waits, without a look into the
 * database.
 */
export function identify(config: Config, guesses: Guesses): RequestHandler {
  return (request, response, next) => {
    const address = countedAs(addressOf(request, config.proxies));
    const key = keyIn(request.headers);
    const go = (known: string | null): void => {
      response.locals.caller = { address, key: known } satisfies Known;
      next();
    };
    if (key === undefined) return go(null);
    if (guesses.isOver(address) && !wasKnown(key))
      return next(
        new Problem('too-many', 'Too many unknown keys from this address: wait a minute.', { retryAfter: 60 }),
      );
    rightIn(request.headers).then((right) => {
      if (!right) guesses.failed(address);
      go(right ? key : null);
    }, next);
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
