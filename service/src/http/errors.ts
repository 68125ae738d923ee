import type { ErrorRequestHandler } from 'express';
import type { Logger } from 'pino';
import type { Config } from '../config.js';
import { problemFrom } from '../failure.js';
import { checkAnswer } from '../validate.js';

/** How long whoever asks too much waits to be told so, in milliseconds: who asks again at once cannot crowd out others. */
const HOLD = 250;
/** So many answers are held back at once; more are given at once. */
const MOST_HELD = 1_000;

/** Answers every error with problem details (RFC 9457). */
export function errorHandler(config: Config, log: Logger): ErrorRequestHandler {
  let held = 0;
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
    response.status(problem.status).type('application/problem+json');
    const send = (): void => void response.send(JSON.stringify(body));
    if (problem.status !== 429 || held >= MOST_HELD) return send();
    held++;
    setTimeout(() => {
      held--;
      send();
    }, HOLD);
  };
}
