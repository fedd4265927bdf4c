/** Errors as RFC 9457 problem details. */
import type { ErrorRequestHandler, Response } from 'express';
import { DocumentError } from '@wemlox/core/src/document/index.ts';
import { PictureError } from '@wemlox/core/src/picture/files.ts';
import { DrawingError } from '@wemlox/core/src/type/painted.ts';
import { FontError } from '@wemlox/core/src/type/unwrap.ts';
import { ConflictError, MissingError } from '@wemlox/store/src/index.ts';

export class Refusal extends Error {
  readonly status: number;
  constructor(status: number, message: string) {
    super(message);
    this.status = status;
  }
}

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
  else if (error instanceof FontError) send(res, 422, 'Not a usable font', error.message);
  else if (error instanceof DrawingError) send(res, 422, 'Not a usable drawing', error.message);
  else if (error instanceof PictureError) send(res, 422, 'Not a usable picture', error.message);
  else if (error instanceof MissingError) send(res, 404, 'Not found', error.message);
  else if (error instanceof ConflictError) {
    send(res, 409, 'Changed elsewhere', error.message, { current: error.current, keptAs: error.keptAs });
  } else if (error instanceof Refusal) send(res, error.status, 'Refused', error.message);
  else if (error?.type === 'entity.too.large')
    send(res, 413, 'Too large', `at most ${error.limit} bytes are taken here`);
  else if (error?.type === 'entity.parse.failed') send(res, 400, 'Not JSON', 'the body is not valid JSON');
  else if (typeof error?.status === 'number' && error.status < 500)
    send(res, error.status, 'Refused', error.message);
  else {
    req.log?.error(error);
    send(res, 500, 'Failed', 'something went wrong on the server; nothing was changed');
  }
};
