import { againstEn } from './against.en.ts';
import { agendaEn } from './agenda.en.ts';
import { archiveEn } from './archive.en.ts';
import { attributesEn, textsEn } from './attributes.en.ts';
import { audiencesEn } from './audiences.en.ts';
import { bookingsEn } from './bookings.en.ts';
import { checksEn } from './checks.en.ts';
import { consequencesEn } from './consequences.en.ts';
import { deskEn } from './desk.en.ts';
import { factsEn } from './facts.en.ts';
import { fillIn, type Params, type Plurals } from './filling.ts';
import { findingsEn } from './findings.en.ts';
import type { Language } from './language.ts';
import { catalogued, spokenIn } from './language.ts';
import { lettersEn } from './letters.en.ts';
import { lifelineEn } from './lifeline.en.ts';
import { duesEn, notesEn } from './notes.en.ts';
import { noticesEn } from './notices.en.ts';
import { pinsEn } from './pins.en.ts';
import { alsoOfBookings, alsoSay } from './problems.ts';
import { reasonsEn } from './reasons.en.ts';
import { refusalsEn } from './refusals.en.ts';
import { reportsEn } from './reports.en.ts';
import { rosterEn } from './roster.en.ts';
import { segmentsEn } from './segments.en.ts';
import { thanksEn } from './thanks.en.ts';
import { timesEn } from './times.en.ts';
import { trendsEn } from './trends.en.ts';
import { verdictsEn } from './verdicts.en.ts';

/** Everything core says to staff, in English. */
const english = {
  against: againstEn,
  agenda: agendaEn,
  archive: archiveEn,
  attributes: attributesEn,
  audiences: audiencesEn,
  checks: checksEn,
  consequences: consequencesEn,
  desk: deskEn,
  dues: duesEn,
  facts: factsEn,
  findings: findingsEn,
  letters: lettersEn,
  lifeline: lifelineEn,
  notes: notesEn,
  notices: noticesEn,
  pins: pinsEn,
  reasons: reasonsEn,
  refusals: refusalsEn,
  reports: reportsEn,
  roster: rosterEn,
  segments: segmentsEn,
  texts: textsEn,
  thanks: thanksEn,
  times: timesEn,
  trends: trendsEn,
  verdicts: verdictsEn,
};

type InAnyLanguage<Words> = Words extends string | Plurals
  ? string | Plurals
  : { [Key in keyof Words]: InAnyLanguage<Words[Key]> };
/** The same in one language: what English has, every language has. */
export type CoreWords = InAnyLanguage<typeof english>;

const catalogues: Partial<Record<Language, CoreWords>> = { en: english };
catalogued(Object.keys(catalogues) as Language[]);

/** The catalogues of the language that is spoken. */
export const words = (): CoreWords => catalogues[spokenIn()]!;
/** A text of these catalogues, filled in. */
export const say = (text: string | Plurals, params: Params = {}): string => fillIn(text, params, spokenIn());

alsoOfBookings('en', bookingsEn);
alsoSay((code) => (words().refusals as Readonly<Record<string, string | Plurals>>)[code]);
