import type { ErrorRequestHandler, RequestHandler } from 'express';
import type { Logger } from 'pino';
import { ValidationError } from 'yup';
import type { ProblemDetails } from '../../contract/problem.ts';
import { RAISED, sqlState } from '../db/database.ts';

/** Something a request cannot have, with words for the person who asked. */
export class Problem extends Error {
  readonly details: ProblemDetails;

  constructor(
    status: number,
    type: string,
    title: string,
    more: Pick<ProblemDetails, 'detail' | 'fields' | 'data'> = {},
  ) {
    super(title);
    this.details = { type, title, status, ...more };
  }
}

/** The problem of a form whose one field is wrong. */
export function fieldProblem(field: string, message: string): Problem {
  return new Problem(422, 'not-valid', message, { fields: [{ field, message }] });
}

function detailsOf(error: unknown): ProblemDetails {
  if (error instanceof Problem) return error.details;
  if (error instanceof ValidationError) {
    const wrong = error.inner.length > 0 ? error.inner : [error];
    const fields = wrong.map(({ path = '', message }) => ({ field: path, message }));
    return { type: 'not-valid', title: fields[0]?.message ?? 'The entry is not valid.', status: 422, fields };
  }
  if (sqlState(error) === RAISED.noOpenDrawer) {
    return {
      type: 'no-open-drawer',
      title: 'The drawer of this till is not open.',
      status: 409,
      detail: 'Open it with a counted float, then take the payment again.',
    };
  }
  if (sqlState(error) === RAISED.serialGone && error instanceof Error) {
    return {
      type: 'serial-gone',
      title: `${error.message} was sold before. Nothing was taken.`,
      status: 409,
      detail: 'Check the serial number, and choose another unit.',
    };
  }
  if (sqlState(error) === RAISED.refused) {
    return {
      type: 'changed-meanwhile',
      title: 'This was changed by somebody else meanwhile. Nothing was done.',
      status: 409,
      detail: 'Look at it again, then go on.',
    };
  }
  if (error instanceof SyntaxError && 'status' in error) {
    return { type: 'not-json', title: 'The request could not be read.', status: 400 };
  }
  if (error instanceof Error && 'type' in error && error.type === 'entity.too.large') {
    return { type: 'too-large', title: 'The request is too large.', status: 413 };
  }
  return {
    type: 'failed',
    title: 'Something went wrong on the server. Nothing was changed.',
    status: 500,
    detail: 'Try again. If it happens again, note the time and tell whoever looks after the system.',
  };
}

/** Answers every error as problem details; what nobody expected is logged. */
export function problemAnswers(log: Logger): ErrorRequestHandler {
  return (error, _request, response, next) => {
    if (response.headersSent) return next(error);
    const details = detailsOf(error);
    if (details.status >= 500) log.error({ err: error }, 'a request failed');
    response.status(details.status).type('application/problem+json').send(JSON.stringify(details));
  };
}

export const notFound: RequestHandler = (_request, _response, next) => {
  next(new Problem(404, 'not-found', 'There is nothing at this address.'));
};
