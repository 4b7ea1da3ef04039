import { Button } from '#web/kit/Button.tsx';
import { phrase } from '#web/words/phrase.ts';
import { Note } from '../../kit/Note.tsx';
import { useSaying } from '../../parts/saying.ts';
import { fieldTitles, sayValue } from './fieldWords.ts';
import type { PlanDraft } from './planDraft.ts';

/** Where somebody else saved the same part meanwhile: both texts, and which of them stays. */
export function Clashes({ draft }: { draft: PlanDraft }) {
  const { money } = useSaying();
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
                <th scope="row">{fieldTitles[field]}</th>
                <td>{sayValue(draft.theirs[field], money)}</td>
                <td>{sayValue(draft.plan[field], money)}</td>
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
