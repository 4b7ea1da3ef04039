import type { PlanField } from '#core/events/parts.ts';
import { cleanDoc, plainText } from '#core/text/doc.ts';
import { sayShortDate, sayTime } from '#core/time/say.ts';
import { phrase, term } from '#web/words/phrase.ts';

/** What each field of a plan is called. */
export const fieldTitles: Record<PlanField, string> = {
  slug: phrase('event.publicAddress'),
  publicTitle: phrase('common.publicTitle'),
  teamTitle: phrase('event.teamTitle'),
  subtitle: phrase('event.subtitle'),
  french: phrase('event.french'),
  notes: phrase('event.teamNotes'),
  faqs: phrase('event.faqs'),
  buttons: phrase('event.buttons'),
  afterwards: phrase('event.afterwards'),
  fullWords: phrase('event.fullWords'),
  registerAt: phrase('event.registerElsewhere'),
  organizer: phrase('event.organizer'),
  dayFiles: phrase('event.dayFiles'),
  goal: phrase('event.goal'),
  giftFunds: phrase('offers.gift'),
  look: phrase('event.pageLook'),
  searchTitle: phrase('event.searchTitle'),
  searchText: phrase('event.searchText'),
  bannerId: phrase('event.banner'),
  gallery: phrase('event.gallery'),
  summary: phrase('event.summary'),
  description: phrase('event.description'),
  category: phrase('event.category'),
  draws: phrase('event.draws'),
  startsLocal: phrase('event.begins'),
  endsLocal: phrase('event.ends'),
  doorsLocal: phrase('event.doors'),
  registrationClosesLocal: phrase('event.registrationCloses'),
  zone: phrase('common.timeZone'),
  allDay: phrase('event.allDay'),
  showEnd: phrase('event.showEnd'),
  secondTime: phrase('event.whichTime'),
  venueId: phrase('common.place'),
  roomId: phrase('event.room'),
  layout: phrase('event.layout'),
  beside: phrase('event.besideWhom'),
  online: phrase('event.onlineRoom'),
  onlineCapacity: phrase('event.onlineCapacity'),
  whenFull: phrase('event.whenPlaceFull'),
  waitRule: phrase('event.waitRule'),
  capacity: phrase('common.capacity'),
  unitId: phrase('common.unit'),
  partnerIds: phrase('event.partnerUnits'),
  visibility: phrase('event.whoMaySeeIt'),
  listed: phrase('event.listed'),
  facts: phrase('event.safety'),
  waivers: phrase('waivers.whatIsSigned'),
  doors: phrase('event.atTheDoors'),
  speakers: phrase('event.speakers'),
  sponsors: phrase('event.sponsors'),
  tracks: phrase('event.tracks'),
  sessions: phrase('event.agenda'),
  call: phrase('event.sessionCall'),
  admission: phrase('event.admission'),
  offers: phrase('event.tickets'),
  extras: phrase('event.extras'),
  codes: phrase('event.codes'),
  taxes: phrase('event.taxes'),
  currency: phrase('event.currency'),
  refunds: phrase('offers.refunds'),
  balanceDays: phrase('offers.balanceDays'),
  questions: phrase('event.questions'),
  namesDays: phrase('questions.namesDays'),
  forgetDays: phrase('questions.forgetDays'),
  messages: phrase('common.messages'),
  surveys: phrase('event.survey'),
  outcomes: phrase('outcomes.planTitle'),
};

const wall = /^\d{4}-\d\d-\d\dT\d\d:\d\d$/u;

/** A value of a plan as somebody reads it, to be compared with another; `money` says an amount of its currency. */
export function sayValue(value: unknown, money: (amount: number) => string): string {
  const say = (one: unknown) => sayValue(one, money);
  if (value === null || value === '') return phrase('common.nothing');
  if (typeof value === 'boolean') return term(value ? 'yes' : 'no');
  if (Array.isArray(value)) return value.map(say).join(', ') || phrase('common.nothing');
  if (typeof value === 'string' && wall.test(value))
    return `${sayShortDate(value, true)} ${value.slice(0, 4)}, ${sayTime(value)}`;
  if (typeof value !== 'object') return String(value);
  const { type } = value as { type?: string };
  if (type === 'doc') return plainText(cleanDoc(value)) || phrase('common.nothing');
  if ('publicTitle' in value) return Object.values(value).map(say).filter(Boolean).join(' · ');
  if ('en' in value)
    return (
      [value.en, 'fr' in value ? value.fr : ''].map(String).filter(Boolean).join(' · ') ||
      phrase('common.nothing')
    );
  const { question, label } = value as { question?: unknown; label?: unknown };
  if (question ?? label) return say(question ?? label);
  const { name, prompt, title, questions, price } = value as Record<string, unknown>;
  const words = name ?? prompt ?? title;
  const first = typeof words === 'object' ? ((words as { en?: string } | null)?.en ?? '') : String(words);
  const more = Array.isArray(questions) ? questions.map(say).join('; ') : '';
  return [first, typeof price === 'number' ? phrase('event.at', { price: money(price) }) : '', more]
    .filter(Boolean)
    .join(' ');
}
