import { z } from 'zod';
import { contract, id, idParams, token } from './endpoint.ts';

export const filesContract = contract({
  'POST /api/files': {
    summary:
      'Keep a file to be given to seat-holders: PDF, picture, text, calendar, track or office document of at most 4 MB. The same file is kept once',
    who: ['unit lead'],
    limit: '6mb',
    body: z.object({
      name: z.string().trim().min(1, 'name-needed').max(200),
      /** The file as base64. */
      content: z.string().min(1, 'file-empty'),
    }),
    response: z.object({ id, name: z.string(), bytes: z.int() }),
  },
  'GET /api/events/:id/files': {
    summary: 'The files an event gives to its seat-holders',
    who: ['unit lead'],
    params: idParams,
    response: z.array(z.object({ id, name: z.string(), bytes: z.int() })),
  },
  'GET /api/events/:id/files/:file': {
    summary: 'One of them',
    who: ['unit lead'],
    params: z.object({ id, file: id }),
    response: { file: 'application/octet-stream' },
  },
  'GET /api/public/orders/:token/files/:file': {
    summary: 'A file for the day, for who holds a seat',
    who: 'public',
    params: token.extend({ file: id }),
    response: { file: 'application/octet-stream' },
  },
});
