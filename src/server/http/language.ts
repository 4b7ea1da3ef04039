import type { Request, RequestHandler } from 'express';
import type { Language } from '#core/words/language.ts';
import { inLanguage } from '../app/reading.ts';

/** The language somebody asked for, among those there are. */
export const languageOf = (request: Request): Language =>
  request.acceptsLanguages(['en', 'fr']) === 'fr' ? 'fr' : 'en';

/** What is said while a request is answered is said in the language of whoever sent it, as far as it is spoken here. */
export const inTheirLanguage: RequestHandler = (request, _, next) => inLanguage(languageOf(request), next);
