import { tableId } from '@wily-jester/protocol';
import type { NextFunction, Request, RequestHandler, Response } from 'express';
import type { Config } from '../config.js';
import { Problem } from '../problems.js';
import { type AnswerName, checkAnswer } from '../validate.js';

const TABLE_ID = new RegExp(tableId.pattern);

/** Sends an answer as JSON, checked against its schema where the service is asked to. */
export class Answerer {
  constructor(private readonly config: Config) {}

  send(response: Response, name: AnswerName, body: unknown, status = 200): void {
    if (this.config.checkAnswers) checkAnswer(name, body);
    response.status(status).json(body);
  }
}

/** A handler that may wait; what it throws goes to the error handler. */
export function handler(work: (request: Request, response: Response) => Promise<void>): RequestHandler {
  return (request: Request, response: Response, next: NextFunction) => {
    work(request, response).catch(next);
  };
}

/** A value from the path. */
export const fromPath = (request: Request, name: string): string => String(request.params[name] ?? '');
/** The table that a path names, by its id and in no other way. @throws Problem where it is no id */
export function tableFrom(request: Request): string {
  const id = fromPath(request, 'table');
  if (!TABLE_ID.test(id)) throw new Problem('not-found', 'There is no such table.');
  return id;
}
/** A value from the query, or `undefined`. */
export const fromQuery = (request: Request, name: string): string | undefined => {
  const value = request.query[name];
  return typeof value === 'string' ? value : undefined;
};

/** A whole number that a query gives. @throws Problem where it is none */
export function wholeNumber(text: string | undefined, name: string): number | undefined {
  if (text === undefined) return undefined;
  if (!/^\d{1,9}$/.test(text)) throw new Problem('malformed', `"${name}" is a whole number, not "${text}".`);
  return Number(text);
}
