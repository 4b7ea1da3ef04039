import express, { type Request, type RequestHandler, type Response } from 'express';
import { Problem, refused } from './problem.ts';

/** How large a body may be; what most endpoints take, lists of many ids and photos, files to be brought in. */
export type BodyLimit = '256kb' | '6mb' | '28mb';

/** How many lists, objects and values a body may have: reading millions of tiny ones stops everybody else. */
const mostParts = { '256kb': 20_000, '6mb': 120_000, '28mb': 20_000 } as const;

const readers = new Map<BodyLimit, RequestHandler>();

/** What was sent byte by byte, of requests that are signed. */
const raw = new WeakMap<object, Buffer>();

/** The body of a signed request as it was sent. */
export const rawBody = (request: Request): string => raw.get(request)?.toString('utf8') ?? '';

function readerOf(limit: BodyLimit): RequestHandler {
  const known = readers.get(limit);
  if (known) return known;
  const reader = express.json({
    limit,
    verify: (request, _response, bytes) => {
      if (request.headers['webhook-signature']) raw.set(request, bytes);
      if (partsOf(bytes) > mostParts[limit]) throw refused('too-many-parts', {}, 413);
    },
  });
  readers.set(limit, reader);
  return reader;
}

/** Commas and opening brackets outside of nothing: an upper bound of how many values there are, found in one pass. */
function partsOf(bytes: Buffer): number {
  let parts = 0;
  for (let at = 0; at < bytes.length; at += 1) {
    const b = bytes[at]!;
    // , [ {
    if (b === 0x2c || b === 0x5b || b === 0x7b) parts += 1;
  }
  return parts;
}

/** Reads a JSON body. It is read only once it is known that the caller may call the endpoint. */
export const readBody = (request: Request, response: Response, limit: BodyLimit): Promise<void> =>
  new Promise((resolve, reject) => {
    readerOf(limit)(request, response, (error?: unknown) => {
      if (!error) resolve();
      // The reader wraps what its check threw.
      else reject(error instanceof Error && error.cause instanceof Problem ? error.cause : error);
    });
  });
