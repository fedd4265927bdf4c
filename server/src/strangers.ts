/** Keeps strangers out: requests for other hosts, changes from other pages, no token, too many at once. */
import { createHash, timingSafeEqual } from 'node:crypto';
import { parse } from 'cookie';
import type { Request, RequestHandler } from 'express';
import { rateLimit } from 'express-rate-limit';
import { REQUESTS } from '@wemlox/core/ceilings';
import { Refusal } from './problem.ts';
import type { Settings } from './settings.ts';

const COOKIE = 'wemlox';
const READS = new Set(['GET', 'HEAD']);

/** Only requests for a host that the server was told it is: a name that was rebound to this address is not. */
export const knownHost =
  ({ hosts }: Pick<Settings, 'hosts'>): RequestHandler =>
  (req, _res, next) => {
    const name = (req.headers.host ?? '').replace(/:\d*$/, '').toLowerCase();
    if (!hosts.has(name)) throw new Refusal(421, 'the studio does not go by this host name');
    next();
  };

/** Changes only from the studio's own pages, or from programs that are no browser and name no page. */
export const ownPages: RequestHandler = (req, _res, next) => {
  if (!READS.has(req.method)) {
    const { origin, host, 'sec-fetch-site': site } = req.headers;
    const foreign =
      (site !== undefined && site !== 'same-origin' && site !== 'none') ||
      (origin !== undefined && origin.replace(/^https?:\/\//, '') !== host);
    if (foreign) throw new Refusal(403, 'changes are taken only from the studio’s own pages');
  }
  next();
};

const digest = (text: string) => createHash('sha256').update(text).digest();
const same = (a: string, b: string) => timingSafeEqual(digest(a), digest(b));

const presented = (req: Request): string | undefined =>
  /^Bearer (.+)$/.exec(req.headers.authorization ?? '')?.[1] ?? parse(req.headers.cookie ?? '')[COOKIE];

/** A link with the token gives the browser a cookie with it; without either nothing is answered. */
export const withToken =
  ({ token }: Pick<Settings, 'token'>): RequestHandler =>
  (req, res, next) => {
    if (token === null) return next();
    const linked = req.query.token;
    if (READS.has(req.method) && typeof linked === 'string' && same(linked, token)) {
      res.cookie(COOKIE, token, { httpOnly: true, sameSite: 'strict', maxAge: 365 * 86_400_000 });
      // a page of our own goes on: a redirect would still count as the stranger's link, without the cookie
      res
        .type('html')
        .send('<!doctype html><meta http-equiv="refresh" content="0;url=/"><title>Wemlox</title>');
      return;
    }
    const shown = presented(req);
    if (shown === undefined || !same(shown, token))
      throw new Refusal(401, 'the studio asks for its token: open the link with ?token=… once');
    next();
  };

/** At most so many requests of one address in a while. */
export const notTooMany = (): RequestHandler =>
  rateLimit({
    windowMs: REQUESTS.seconds * 1000,
    limit: REQUESTS.most,
    standardHeaders: 'draft-8',
    legacyHeaders: false,
    handler: () => {
      throw new Refusal(
        429,
        `more than ${REQUESTS.most} requests in ${REQUESTS.seconds} seconds; wait a moment`,
      );
    },
  });
