/** Who asks. Nobody signs in yet: it is always the local artist. */
import type { RequestHandler, Response } from 'express';
import type { Pool, Session } from '@wemlox/store';
import { LOCAL_ARTIST, type Actor } from '@wemlox/wire';

/** Names the actor of a request, before any route. */
export const withActor: RequestHandler = (_req, res, next) => {
  res.locals.actor = LOCAL_ARTIST;
  next();
};

/** The request's actor at the database. */
export const sessionOf = (pool: Pool, res: Response): Session => ({ pool, actor: res.locals.actor as Actor });
