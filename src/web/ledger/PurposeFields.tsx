import type { Answer } from '#web/api.ts';
import { Choose } from '#web/kit/form/fields.tsx';
import type { Form } from '#web/kit/form/useForm.ts';
import { phrase } from '#web/words/phrase.ts';

/** What gifts can be for. */
export type Purposes = Answer<'GET /api/giving/choices'>;

/** What a gift is for, as it is filled in. */
export interface Purpose {
  fundId: string;
  initiativeId: string;
  eventId: string;
}

/** What a gift is for: its fund, and the initiative and the event it belongs to, if any. */
export function PurposeFields<V extends Purpose>({
  form: given,
  choices,
}: {
  form: Form<V>;
  choices: Purposes;
}) {
  const form = given as unknown as Form<Purpose>;
  const none = { value: '', label: phrase('ledger.none') };
  return (
    <>
      <Choose
        form={form}
        name="fundId"
        label={phrase('ledger.fund')}
        choices={choices.funds.map((f) => ({ value: f.id, label: f.name }))}
      />
      {choices.initiatives.length > 0 && (
        <Choose
          form={form}
          name="initiativeId"
          label={phrase('ledger.giftForInitiative')}
          choices={[none, ...choices.initiatives.map((i) => ({ value: i.id, label: i.name }))]}
        />
      )}
      <Choose
        form={form}
        name="eventId"
        label={phrase('ledger.giftForEvent')}
        choices={[none, ...choices.events.map((e) => ({ value: e.id, label: e.title }))]}
      />
    </>
  );
}
