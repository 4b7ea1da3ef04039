import type { EventPlan } from '#contract/events.ts';
import { Button } from '#web/kit/Button.tsx';
import { phrase, term } from '#web/words/phrase.ts';
import { Note } from '../kit/Note.tsx';
import type { PlanDraft } from './planDraft.ts';

const titles: Record<keyof EventPlan, string> = {
  slug: phrase('event.publicAddress'),
  publicTitle: phrase('common.publicTitle'),
  teamTitle: phrase('event.teamTitle'),
  summary: phrase('event.summary'),
  description: phrase('event.description'),
  category: phrase('event.category'),
  draws: phrase('event.draws'),
  startsLocal: phrase('event.begins'),
  endsLocal: phrase('event.ends'),
  doorsLocal: phrase('event.doors'),
  registrationClosesLocal: phrase('event.registrationCloses'),
  zone: phrase('common.timeZone'),
  venueId: phrase('common.place'),
  capacity: phrase('common.capacity'),
  unitId: phrase('common.unit'),
  visibility: phrase('event.whoMaySeeIt'),
  listed: phrase('event.listed'),
  flags: phrase('event.safety'),
  waiverId: phrase('event.waiver'),
  offers: phrase('event.tickets'),
  questions: phrase('event.questions'),
  messages: phrase('common.messages'),
  survey: phrase('event.survey'),
};

/** A value of a plan as somebody reads it, to be compared with another. */
function sayValue(value: unknown): string {
  if (value === null || value === '') return phrase('common.nothing');
  if (typeof value === 'boolean') return term(value ? 'yes' : 'no');
  if (Array.isArray(value)) return value.map(sayValue).join(', ') || phrase('common.nothing');
  if (typeof value !== 'object') return String(value).replace(/^(\d{4}-\d\d-\d\d)T(?=\d\d:\d\d$)/u, '$1 ');
  const { name, prompt, title, questions, price } = value as Record<string, unknown>;
  const words = name ?? prompt ?? title;
  const first = typeof words === 'object' ? ((words as { en?: string } | null)?.en ?? '') : String(words);
  const more = Array.isArray(questions) ? questions.map(sayValue).join('; ') : '';
  return [
    first,
    typeof price === 'number' ? phrase('event.at', { price: (price / 100).toFixed(2) }) : '',
    more,
  ]
    .filter(Boolean)
    .join(' ');
}

/** Where somebody else saved the same part meanwhile: both texts, and which of them stays. */
export function Clashes({ draft }: { draft: PlanDraft }) {
  return draft.clashes.map(({ part, says, fields }) => (
    <Note as="section" key={part} tone="stop" role="alert" aria-label={phrase('event.twoTexts')}>
      <p>{says}</p>
      <div className="table">
        <table>
          <thead>
            <tr>
              <th scope="col">{phrase('common.field')}</th>
              <th scope="col">{phrase('event.theirsSaved')}</th>
              <th scope="col">{phrase('event.yoursNotSaved')}</th>
            </tr>
          </thead>
          <tbody>
            {fields.map((field) => (
              <tr key={field}>
                <th scope="row">{titles[field]}</th>
                <td>{sayValue(draft.theirs[field])}</td>
                <td>{sayValue(draft.plan[field])}</td>
              </tr>
            ))}
          </tbody>
        </table>
      </div>
      <p className="acts">
        <Button onClick={() => draft.keepMine(part)}>{phrase('event.saveMineOverTheirs')}</Button>
        <Button onClick={() => draft.takeTheirs(part)}>{phrase('event.keepTheirs')}</Button>
      </p>
    </Note>
  ));
}
