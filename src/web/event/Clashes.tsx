import type { EventPlan } from '#contract/events.ts';
import { Button } from '#web/kit/Button.tsx';
import { Note } from '../kit/Note.tsx';
import type { PlanDraft } from './planDraft.ts';

const titles: Record<keyof EventPlan, string> = {
  slug: 'Public address',
  publicTitle: 'Public title',
  teamTitle: 'Team title',
  summary: 'Summary',
  description: 'Description',
  category: 'Category',
  draws: 'Draws',
  startsLocal: 'Begins',
  endsLocal: 'Ends',
  doorsLocal: 'Doors',
  registrationClosesLocal: 'Registration closes',
  zone: 'Time zone',
  venueId: 'Place',
  capacity: 'Capacity',
  unitId: 'Unit',
  visibility: 'Who may see it',
  listed: 'Listed',
  flags: 'Safety',
  waiverId: 'Waiver',
  offers: 'Tickets',
  questions: 'Questions',
  messages: 'Messages',
  survey: 'Survey',
};

/** A value of a plan as somebody reads it, to be compared with another. */
function sayValue(value: unknown): string {
  if (value === null || value === '') return 'nothing';
  if (typeof value === 'boolean') return value ? 'yes' : 'no';
  if (Array.isArray(value)) return value.map(sayValue).join(', ') || 'nothing';
  if (typeof value !== 'object') return String(value).replace(/^(\d{4}-\d\d-\d\d)T(?=\d\d:\d\d$)/u, '$1 ');
  const { name, prompt, title, questions, price } = value as Record<string, unknown>;
  const words = name ?? prompt ?? title;
  const first = typeof words === 'object' ? ((words as { en?: string } | null)?.en ?? '') : String(words);
  const more = Array.isArray(questions) ? questions.map(sayValue).join('; ') : '';
  return [first, typeof price === 'number' ? `at ${(price / 100).toFixed(2)}` : '', more]
    .filter(Boolean)
    .join(' ');
}

/** Where somebody else saved the same part meanwhile: both texts, and which of them stays. */
export function Clashes({ draft }: { draft: PlanDraft }) {
  return draft.clashes.map(({ part, says, fields }) => (
    <Note as="section" key={part} tone="stop" role="alert" aria-label="Two texts">
      <p>{says}</p>
      <div className="table">
        <table>
          <thead>
            <tr>
              <th scope="col">Field</th>
              <th scope="col">Theirs, saved</th>
              <th scope="col">Yours, not saved</th>
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
        <Button onClick={() => draft.keepMine(part)}>Save mine over theirs</Button>
        <Button onClick={() => draft.takeTheirs(part)}>Keep theirs</Button>
      </p>
    </Note>
  ));
}
