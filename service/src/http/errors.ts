import type { ErrorRequestHandler } from 'express';
import type { Logger } from 'pino';
import type { Config } from '../config.js';
import { problemFrom } from '../failure.js';
import { checkAnswer } from '../validate.js';

/** Answers every error with problem details (RFC 9457). */
export function errorHandler(config: Config, log: Logger): ErrorRequestHandler {
  return (error, _request, response, next) => {
    if (response.headersSent) {
      next(error);
      return;
    }
    const problem = problemFrom(error, log);
    const body = problem.toJSON();
    if (config.checkAnswers) checkAnswer('problem', body);
    const { retryAfter = problem.status === 503 ? 1 : undefined } = problem.extra;
    if (retryAfter !== undefined) response.set('Retry-After', String(retryAfter));
    if (problem.status === 401) response.set('WWW-Authenticate', 'Bearer');
    response.status(problem.status).type('application/problem+json').send(JSON.stringify(body));
  };
}
