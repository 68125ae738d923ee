import type { ErrorRequestHandler } from 'express';
import type { Logger } from 'pino';
import type { Config } from '../config.js';
import { Problem } from '../problems.js';
import { isAway } from '../storage/database.js';
import { checkAnswer } from '../validate.js';

/** Any error as a problem: what the service foresaw by name, everything else without its insides. */
function problemOf(error: unknown, log: Logger): Problem {
  if (error instanceof Problem) return error;
  const { type, status } = error as { type?: string; status?: number };
  if (type === 'entity.too.large') return new Problem('too-large', 'The body is larger than 256 KiB.');
  if (type === 'entity.parse.failed') return new Problem('malformed', 'The body is not JSON.');
  if (status === 400 || status === 415) return new Problem('malformed', 'The request cannot be read.');
  if (isAway(error)) return new Problem('unavailable', 'The database does not answer. Nothing was changed: try again.');
  log.error({ error }, 'a request could not be answered');
  return new Problem('internal', 'Something went wrong here; it was noted.');
}

/** Answers every error with problem details (RFC 9457). */
export function errorHandler(config: Config, log: Logger): ErrorRequestHandler {
  return (error, _request, response, next) => {
    if (response.headersSent) {
      next(error);
      return;
    }
    const problem = problemOf(error, log);
    const body = problem.toJSON();
    if (config.checkAnswers) checkAnswer('problem', body);
    if (problem.status === 503) response.set('Retry-After', '1');
    if (problem.status === 401) response.set('WWW-Authenticate', 'Bearer');
    response.status(problem.status).type('application/problem+json').send(JSON.stringify(body));
  };
}
