/** Errors as RFC 9457 problem details. */
import { STATUS_CODES } from 'node:http';
import type { ErrorRequestHandler, Response } from 'express';
import { DocumentError } from '@wemlox/core/document';
import { UnreadableError } from './foreign/jobs.ts';
import { ConflictError, isAway, isUnstorable, MissingError, QuotaError } from '@wemlox/store';

/** Refused with a status and one line that says why. */
export class Refusal extends Error {
  readonly status: number;
  constructor(status: number, message: string) {
    super(message);
    this.status = status;
  }
}

/** The other side hung up in the middle of its request. */
const isEnded = (error: unknown) =>
  ['ERR_STREAM_PREMATURE_CLOSE', 'ECONNABORTED'].includes((error as NodeJS.ErrnoException).code ?? '');

function send(res: Response, status: number, title: string, detail: string, more: object = {}): void {
  res
    .status(status)
    .type('application/problem+json')
    .send(JSON.stringify({ type: 'about:blank', title, status, detail, ...more }));
}

export const problems: ErrorRequestHandler = (error, req, res, next) => {
  if (res.headersSent) {
    next(error);
    return;
  }
  if (error instanceof DocumentError)
    send(res, 422, 'Not a valid document', error.message, { problems: error.problems });
  else if (error instanceof UnreadableError)
    send(res, 422, error.title, error.message, error.problems ? { problems: error.problems } : {});
  else if (error instanceof QuotaError) send(res, 413, 'More than is kept', error.message);
  else if (error instanceof MissingError) send(res, 404, 'Not found', error.message);
  else if (error instanceof ConflictError) {
    send(res, 409, 'Changed elsewhere', error.message, { current: error.current, keptAs: error.keptAs });
  } else if (error instanceof Refusal) send(res, error.status, 'Refused', error.message);
  else if (error?.type === 'entity.too.large')
    send(res, 413, 'Too large', `at most ${error.limit} bytes are taken here`);
  else if (error?.type === 'entity.parse.failed') send(res, 400, 'Not JSON', 'the body is not valid JSON');
  else if (typeof error?.status === 'number' && error.status >= 400 && error.status < 500)
    // words of libraries may hold paths of this machine
    send(res, error.status, 'Refused', (STATUS_CODES[error.status] ?? 'refused').toLowerCase());
  else if (isUnstorable(error)) send(res, 422, 'Refused', 'the request holds a value that cannot be kept');
  else if (isAway(error)) {
    send(res, 503, 'The database is away', 'the database does not answer; it is tried again');
  } else if (isEnded(error)) res.destroy();
  else {
    req.log?.error(error);
    send(res, 500, 'Failed', 'something went wrong on the server; nothing was changed');
  }
};
