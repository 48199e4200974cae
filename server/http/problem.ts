import type { ErrorRequestHandler, RequestHandler } from 'express';
import type { Logger } from 'pino';
import { ValidationError } from '../../contract/yup.ts';
import { PROBLEMS, type ProblemDetails, type ProblemType } from '../../contract/problem.ts';
import { RAISED, sqlState } from '../db/database.ts';

/** Something a request cannot have, with words for the person who asked. */
export class Problem<Type extends ProblemType = ProblemType> extends Error {
  readonly details: ProblemDetails<Type>;

  constructor(
    type: Type,
    title: string,
    more: Pick<ProblemDetails<Type>, 'detail' | 'fields' | 'data'> = {},
  ) {
    super(title);
    this.details = { type, title, status: PROBLEMS[type], ...more };
  }
}

/** The problem of a form whose one field is wrong. */
export function fieldProblem(field: string, message: string): Problem {
  return new Problem('not-valid', message, { fields: [{ field, message }] });
}

/** Somebody else was faster: what was looked at is not as it is. */
export const changedMeanwhile = (
  title = 'This was changed by somebody else meanwhile. Nothing was done.',
): Problem => new Problem('changed-meanwhile', title, { detail: 'Look at it again, then go on.' });

/** The same of what a form is of, which follows where nobody has touched it. */
export const formChangedMeanwhile = (
  title = 'This was changed by somebody else meanwhile. Nothing was done.',
): Problem =>
  new Problem('changed-meanwhile', title, {
    detail: 'What you have not touched is shown as it is now. Look at it, then do it again.',
  });

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
  const state = sqlState(error) ?? '';
  if (state.startsWith(DISK_FULL_CLASS) || codeOf(error) === 'ENOSPC') return DISK_FULL;
  if (state.startsWith(OUT_OF_RANGE_CLASS) || state.startsWith(REFUSED_CLASS)) {
    return {
      type: 'not-valid',
      title: 'Something in the request is out of range, or is not there.',
      status: 422,
    };
  }
  return (
    ofRequest(error) ?? {
      type: 'failed',
      title: 'Something went wrong on the server. Nothing was changed.',
      status: 500,
      detail: 'Try again. If it happens again, note the time and tell whoever looks after the system.',
    }
  );
}

/** Classes of SQLSTATEs (PostgreSQL, appendix A): data exceptions, broken constraints, no room left. */
const OUT_OF_RANGE_CLASS = '22';
const REFUSED_CLASS = '23';
const DISK_FULL_CLASS = '53100';

const DISK_FULL: ProblemDetails = {
  type: 'disk-full',
  title: 'The disk of the server is full. Nothing was stored, and nothing was taken.',
  status: 507,
  detail: 'Make room on it: then it goes on by itself. Tell whoever looks after the system.',
};

const codeOf = (error: unknown): unknown =>
  typeof error === 'object' && error !== null && 'code' in error ? error.code : undefined;

/** What was wrong with a request before anybody looked at what it asks for: its size, coding, address. */
function ofRequest(error: unknown): ProblemDetails | null {
  if (!(error instanceof Error) || !('status' in error) || typeof error.status !== 'number') return null;
  const { status } = error;
  if (status === 413) return { type: 'too-large', title: 'The request is too large.', status };
  if (status === 404) return { type: 'not-found', title: 'There is nothing at this address.', status };
  return status >= 400 && status < 500
    ? { type: 'not-json', title: 'The request could not be read.', status }
    : null;
}

/** Answers every error as problem details; what nobody expected is logged. */
export function problemAnswers(log: Logger): ErrorRequestHandler {
  return (error, _request, response, next) => {
    if (response.headersSent) return next(error);
    const details = detailsOf(error);
    if (details.status >= 500) log.error({ err: error }, 'a request failed');
    else if (sqlState(error)) log.warn({ err: error }, 'the database refused a request');
    response.status(details.status).type('application/problem+json').send(JSON.stringify(details));
  };
}

export const notFound: RequestHandler = (_request, _response, next) => {
  next(new Problem('not-found', 'There is nothing at this address.'));
};
