import type { NextFunction, Request, Response } from 'express';
import type { App } from '../app/app.ts';
import { refused } from './problem.ts';

const loopback = new Set(['localhost', '127.0.0.1', '[::1]']);

/** The names the product answers to: that of its configured origin, and the loopback names beside it. */
function knownHost(app: App, host: string | undefined): boolean {
  if (!host) return false;
  let asked: URL;
  try {
    asked = new URL(`http://${host}`);
  } catch {
    return false;
  }
  if (asked.host !== host.toLowerCase()) return false;
  const own = new URL(app.origin);
  // Whoever reaches it by a loopback name is on this machine, or has tunnelled here.
  return asked.host === own.host || loopback.has(asked.hostname);
}

/** Refuses requests for other names: a page elsewhere that points its own name here gets nothing (DNS rebinding). */
export const refuseUnknownHosts =
  (app: App) =>
  (request: Request, _: Response, next: NextFunction): void => {
    next(knownHost(app, request.get('host')) ? undefined : refused('unknown-host', {}, 421));
  };

/**
 * Refuses writes that a browser sends from another site: compared with the configured origin, not with what the request
 * says of itself (defence beside SameSite cookies). On loopback names the port decides.
 */
export const refuseOtherOrigins =
  (app: App) =>
  (request: Request, _: Response, next: NextFunction): void => {
    if (request.method === 'GET' || request.method === 'HEAD') {
      next();
      return;
    }
    const origin = request.get('origin');
    const site = request.get('sec-fetch-site');
    const same = origin
      ? isOwn(app, origin, request.get('host'))
      : !site || site === 'same-origin' || site === 'none';
    next(same ? undefined : refused('other-origin', {}, 403));
  };

function isOwn(app: App, origin: string, host: string | undefined): boolean {
  try {
    const [from, own] = [new URL(origin), new URL(app.origin)];
    if (from.origin === own.origin) return true;
    return loopback.has(from.hostname) && from.host === host && from.protocol === own.protocol;
  } catch {
    return false;
  }
}
