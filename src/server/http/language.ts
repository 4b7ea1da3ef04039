import { AsyncLocalStorage } from 'node:async_hooks';
import type { Request, RequestHandler } from 'express';
import type { Language } from '#core/words/language.ts';
import { speakAs } from '#core/words/language.ts';

const reader = new AsyncLocalStorage<Language>();
speakAs(() => reader.getStore() ?? 'en');

/** The language somebody asked for, among those there are. */
export const languageOf = (request: Request): Language =>
  request.acceptsLanguages(['en', 'fr']) === 'fr' ? 'fr' : 'en';

/** What is said while a request is answered is said in the language of whoever sent it, as far as it is spoken here. */
export const inTheirLanguage: RequestHandler = (request, _, next) => reader.run(languageOf(request), next);
