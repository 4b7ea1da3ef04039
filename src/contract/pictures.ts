import { z } from 'zod';
import { shapes } from '#core/pictures/picture.ts';
import { contract, done, id, idParams, instant, texts } from './endpoint.ts';

const share = z.number().min(0).max(1);
const alt = z.object({
  en: z.string().trim().min(3, 'alt-needed').max(300),
  fr: z.string().trim().max(300).optional(),
});
export const shownPicture = z.object({
  id,
  alt: texts,
  width: z.int(),
  height: z.int(),
  focusX: share,
  focusY: share,
});
/** A picture beside the plan: whether the asker may say what is on it. */
export const plannedPicture = shownPicture.extend({ mayDescribe: z.boolean() });
export type PlannedPicture = z.infer<typeof plannedPicture>;
const keptPicture = plannedPicture.extend({ at: instant, by: z.string() });
export type KeptPicture = z.infer<typeof keptPicture>;

const lead = ['unit lead'] as const;
export const picturesContract = contract({
  'GET /api/pictures': {
    summary: 'Pictures that were used before, newest first',
    who: lead,
    query: z.object({ offset: z.coerce.number().int().min(0).default(0) }),
    response: z.object({ pictures: z.array(keptPicture), more: z.boolean() }),
  },
  'POST /api/pictures': {
    summary:
      'Keep a picture: JPEG, PNG, WebP, GIF, AVIF or TIFF of at most 20 MB and 50 megapixels; cut, made smaller, and without what the camera wrote into it. The same picture is kept once',
    who: lead,
    limit: '28mb',
    ownTransactions: true,
    body: z.object({
      /** The file as base64. */
      content: z.string().min(1, 'not-a-picture'),
      alt,
      shape: z.enum(shapes).default('whole'),
      focus: z.object({ x: share, y: share }).default({ x: 0.5, y: 0.5 }),
    }),
    response: keptPicture,
  },
  'PATCH /api/pictures/:id': {
    summary: 'Say what is on a picture, and where its matter is',
    who: lead,
    params: idParams,
    body: z.object({ alt: alt.optional(), focus: z.object({ x: share, y: share }).optional() }),
    response: done,
  },
  'GET /api/logos': {
    summary: 'The logos of the organization and of its units',
    who: ['coordinator'],
    response: z.array(z.object({ unitId: id.nullable(), picture: shownPicture.nullable() })),
  },
  'PUT /api/logos': {
    summary: 'Give the organization, or a unit, a logo, or none',
    who: ['coordinator'],
    body: z.object({
      /** Null for the organization. */
      unitId: id.nullable(),
      pictureId: id.nullable(),
    }),
    response: done,
  },
  'GET /api/public/pictures/:id/:size': {
    summary: 'A picture in a size: a width in pixels and webp or jpg, such as 800.webp',
    who: 'public',
    params: z.object({ id, size: z.string().regex(/^\d{1,5}\.(?:webp|jpg)$/u, 'no-size') }),
    response: { file: 'image/webp' },
  },
});
