import { z } from 'zod';
import { clearance } from './clearance.ts';
import { contract, id, idParams } from './endpoint.ts';

export const papersContract = contract({
  'POST /api/events/:id/clearance/papers': {
    summary: 'Add a file that was kept as a paper approvers read',
    who: ['unit lead'],
    params: idParams,
    body: z.object({ fileId: id, documentId: id.nullable(), label: z.string().trim().max(120) }),
    response: clearance,
  },
  'DELETE /api/events/:id/clearance/papers/:paper': {
    summary: 'Take a paper off',
    who: ['unit lead'],
    params: z.object({ id, paper: id }),
    response: clearance,
  },
  'GET /api/events/:id/clearance/papers/:paper': {
    summary: 'A paper, for who sees the clearance',
    who: 'staff',
    params: z.object({ id, paper: id }),
    response: { file: 'application/octet-stream' },
  },
});
