import { everybody } from '#core/admission/admission.ts';
import { hasFrench } from '#core/events/french.ts';
import { emptyDoc, isEmptyDoc } from '#core/text/types.ts';
import { sameValue } from '#core/words/canonical.ts';
import { phrase } from '#web/words/phrase.ts';
import { Admission } from './Admission.tsx';
import { Agenda } from './Agenda.tsx';
import { AtTheDoors } from './AtTheDoors.tsx';
import { DayFiles, newOrganizer, OrganizerSection } from './ForPeople.tsx';
import { Gift } from './Gift.tsx';
import { Look } from './Look.tsx';
import { Offers } from './Offers.tsx';
import { Outcomes } from './Outcomes.tsx';
import { Buttons, Faqs, newButton, newFaq, Registering, SearchWords } from './PageMore.tsx';
import { PaidInSection } from './PaidInSection.tsx';
import { newSpeaker, newSponsor, Speakers, Sponsors } from './People.tsx';
import { Pictures } from './Pictures.tsx';
import { Questions } from './Questions.tsx';
import { newRefunds, Refunds } from './Refunds.tsx';
import { Safety } from './Safety.tsx';
import { Codes, Extras, newCode, newExtra, newTax, Taxes } from './Selling.tsx';
import { SessionCall } from './SessionCall.tsx';
import type { Section } from './section.ts';
import { Surveys } from './survey/Surveys.tsx';
import { Team } from './Team.tsx';
import { Description, Draws, French, TeamNotes } from './Texts.tsx';
import { Titles } from './Titles.tsx';
import { Waivers } from './Waivers.tsx';
import { When } from './When.tsx';
import { Where } from './Where.tsx';

/** Every section there is, in order. A new one is an entry here. */
export const sections: readonly Section[] = [
  { id: 'titles', title: '', Show: Titles },
  { id: 'when', title: phrase('event.when'), Show: When },
  { id: 'where', title: phrase('event.whereAndForHowMany'), Show: Where },
  {
    id: 'description',
    title: phrase('event.description'),
    Show: Description,
    optional: { used: (plan) => !isEmptyDoc(plan.description), empty: { description: emptyDoc } },
  },
  {
    id: 'pictures',
    title: phrase('event.pictures'),
    Show: Pictures,
    optional: {
      used: (plan) => plan.bannerId !== null || plan.gallery.length > 0,
      empty: { bannerId: null, gallery: [] },
    },
  },
  {
    id: 'french',
    title: phrase('event.french'),
    Show: French,
    optional: {
      used: (plan) => hasFrench(plan.french),
      empty: { french: { publicTitle: '', subtitle: '', summary: '', description: emptyDoc } },
    },
  },
  {
    id: 'draws',
    title: phrase('event.draws'),
    Show: Draws,
    optional: { used: (plan) => plan.draws.length > 0, empty: { draws: [] } },
  },
  {
    id: 'speakers',
    title: phrase('event.speakers'),
    Show: Speakers,
    optional: {
      used: (plan) => plan.speakers.length > 0,
      begin: () => ({ speakers: [newSpeaker()] }),
      empty: { speakers: [] },
    },
  },
  {
    id: 'agenda',
    wide: true,
    title: phrase('event.agenda'),
    Show: Agenda,
    optional: {
      used: (plan) => plan.sessions.length > 0 || plan.tracks.length > 0,
      empty: { sessions: [], tracks: [] },
    },
  },
  {
    id: 'call',
    title: phrase('event.sessionCall'),
    Show: SessionCall,
    optional: {
      used: (plan) => plan.call !== null,
      begin: () => ({ call: { closes: null, words: { en: '' } } }),
      empty: { call: null },
    },
  },
  {
    id: 'sponsors',
    title: phrase('event.sponsors'),
    Show: Sponsors,
    optional: {
      used: (plan) => plan.sponsors.length > 0,
      begin: () => ({ sponsors: [newSponsor()] }),
      empty: { sponsors: [] },
    },
  },
  {
    id: 'offers',
    wide: true,
    title: phrase('event.offers'),
    Show: Offers,
  },
  {
    id: 'admission',
    wide: true,
    title: phrase('event.admission'),
    Show: Admission,
    optional: {
      used: (plan) => !sameValue(plan.admission, everybody),
      empty: { admission: { ...everybody, ways: everybody.ways.map((w) => ({ ...w, unitIds: [] })) } },
    },
  },
  {
    id: 'extras',
    wide: true,
    title: phrase('event.extras'),
    Show: Extras,
    optional: {
      used: (plan) => plan.extras.length > 0,
      begin: () => ({ extras: [newExtra()] }),
      empty: { extras: [] },
    },
  },
  {
    id: 'codes',
    wide: true,
    title: phrase('event.codes'),
    Show: Codes,
    optional: {
      used: (plan) => plan.codes.length > 0,
      begin: () => ({ codes: [newCode()] }),
      empty: { codes: [] },
    },
  },
  {
    id: 'taxes',
    wide: true,
    title: phrase('event.taxes'),
    Show: Taxes,
    optional: {
      used: (plan) => plan.taxes.length > 0,
      begin: () => ({ taxes: [newTax()] }),
      empty: { taxes: [] },
    },
  },
  {
    id: 'currency',
    title: phrase('event.currency'),
    Show: PaidInSection,
    optional: {
      used: (plan) => plan.currency !== null,
      begin: () => ({ currency: 'USD' }),
      empty: { currency: null },
    },
  },
  {
    id: 'refunds',
    wide: true,
    title: phrase('offers.refunds'),
    Show: Refunds,
    optional: {
      used: (plan) => plan.refunds.length > 0,
      begin: () => ({ refunds: [...newRefunds] }),
      empty: { refunds: [] },
    },
  },
  {
    id: 'gift',
    title: phrase('offers.gift'),
    Show: Gift,
    optional: { used: (plan) => plan.giftFunds.length > 0, empty: { giftFunds: [] } },
  },
  {
    id: 'questions',
    wide: true,
    title: phrase('event.questions'),
    Show: Questions,
    optional: { used: (plan) => plan.questions.length > 0, empty: { questions: [] } },
  },
  {
    id: 'registering',
    title: phrase('event.registering'),
    Show: Registering,
    optional: {
      used: (plan) =>
        Boolean(plan.afterwards.en || plan.fullWords.en || plan.registerAt) || plan.goal.length > 0,
      empty: { afterwards: { en: '' }, fullWords: { en: '' }, registerAt: null, goal: [] },
    },
  },
  {
    id: 'faqs',
    title: phrase('event.faqs'),
    Show: Faqs,
    optional: {
      used: (plan) => plan.faqs.length > 0,
      begin: () => ({ faqs: [newFaq()] }),
      empty: { faqs: [] },
    },
  },
  {
    id: 'buttons',
    title: phrase('event.buttons'),
    Show: Buttons,
    optional: {
      used: (plan) => plan.buttons.length > 0,
      begin: () => ({ buttons: [newButton()] }),
      empty: { buttons: [] },
    },
  },
  {
    id: 'team',
    title: phrase('event.team'),
    Show: Team,
    optional: {
      used: (plan, page) => page.team > 0 || plan.partnerIds.length > 0,
      empty: { partnerIds: [] },
      stays: (page) => page.team > 0,
    },
  },
  {
    id: 'organizer',
    title: phrase('event.organizer'),
    Show: OrganizerSection,
    optional: {
      used: (plan) => plan.organizer !== null,
      begin: () => ({ organizer: newOrganizer() }),
      empty: { organizer: null },
    },
  },
  {
    id: 'files',
    title: phrase('event.dayFiles'),
    Show: DayFiles,
    optional: { used: (plan) => plan.dayFiles.length > 0, empty: { dayFiles: [] } },
  },
  {
    id: 'look',
    title: phrase('event.pageLook'),
    Show: Look,
    optional: {
      used: ({ look }) => look.style !== 'scroll' || look.theme !== 'reader',
      empty: { look: { style: 'scroll', theme: 'reader' } },
    },
  },
  { id: 'safety', title: phrase('event.safety'), Show: Safety },
  { id: 'waivers', title: phrase('waivers.whatIsSigned'), Show: Waivers },
  { id: 'doors', title: phrase('event.atTheDoors'), Show: AtTheDoors },
  {
    id: 'survey',
    wide: true,
    title: phrase('event.survey'),
    Show: Surveys,
    optional: {
      used: (plan) => plan.surveys.length > 0,
      empty: { surveys: [] },
    },
  },
  {
    id: 'outcomes',
    title: phrase('outcomes.planTitle'),
    Show: Outcomes,
    optional: {
      used: ({ outcomes }) => outcomes.measures.length > 0 || outcomes.initiativeIds.length > 0,
      empty: { outcomes: { measures: [], opensDays: 0, closesDays: 7, initiativeIds: [] } },
    },
  },
  {
    id: 'search',
    title: phrase('event.searchEngines'),
    Show: SearchWords,
    optional: {
      used: (plan) => Boolean(plan.searchTitle || plan.searchText),
      empty: { searchTitle: '', searchText: '' },
    },
  },
  {
    id: 'notes',
    title: phrase('event.teamNotes'),
    Show: TeamNotes,
    optional: { used: (plan) => plan.notes.trim() !== '', empty: { notes: '' } },
  },
];
