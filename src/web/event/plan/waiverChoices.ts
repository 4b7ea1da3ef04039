import type { Answer } from '#web/api.ts';
import { phrase, term } from '#web/words/phrase.ts';

export type Waivers = Answer<'GET /api/choices'>['waivers'];

/** The waivers to choose from: of each title the newest version, and the one that is asked for now. They come newest first. */
export const waiverChoices = (waivers: Waivers, chosen: string | null): { value: string; label: string }[] =>
  waivers
    .filter((w, at, all) => w.id === chosen || all[at - 1]?.title !== w.title)
    .map((w) => ({
      value: w.id,
      label: phrase('event.version', { title: w.title, version: w.version, audience: term(w.audience) }),
    }));
