import { chakra } from '@chakra-ui/react';
import { Plus, Trash2 } from 'lucide-react';
import { useState } from 'react';
import type { EventPlan, Offer, QuestionPlan } from '#contract/events.ts';
import { plainAmount, readAmount } from '#core/money/amount.ts';
import { Button } from '#web/kit/Button.tsx';
import { Tick } from '../kit/Choosing.tsx';
import { ChoiceField, TextField } from '../kit/Field.tsx';
import { Empty } from '../kit/Note.tsx';
import { useSaying } from '../parts/saying.ts';

type Wrong = Record<string, string>;

/** What can be registered for. A price and a quantity show what they come to. */
export function OffersEditor({
  offers,
  set,
  wrong,
}: {
  offers: Offer[];
  set: (offers: Offer[]) => void;
  wrong: Wrong;
}) {
  const { money, currency } = useSaying();
  const change = (id: string, part: Partial<Offer>) =>
    set(offers.map((o) => (o.id === id ? { ...o, ...part } : o)));
  const add = () =>
    set([
      ...offers,
      {
        id: crypto.randomUUID(),
        name: 'Seat',
        about: '',
        price: 0,
        quantity: null,
        seatsPerUnit: 1,
        mostPerOrder: 10,
      },
    ]);
  return (
    <chakra.section marginTop="18px">
      <div className="spread">
        <h3>Offers</h3>
        <Button onClick={add}>
          <Plus size={14} aria-hidden /> Add an offer
        </Button>
      </div>
      {wrong.offers && <p className="error-line">{wrong.offers}</p>}
      {offers.length === 0 && (
        <Empty>Nothing can be registered for yet. Add an offer: free, or with a price.</Empty>
      )}
      <ul className="lines">
        {offers.map((o, at) => {
          const error = (field: string) => wrong[`offers.${at}.${field}`];
          return (
            <li key={o.id}>
              <chakra.div
                display="grid"
                gridTemplateColumns="1.6fr 0.9fr 0.8fr 0.8fr 0.8fr auto"
                gap="0 10px"
                alignItems="start"
              >
                <TextField
                  label="Name"
                  value={o.name}
                  set={(name) => change(o.id, { name })}
                  error={error('name')}
                />
                <PriceField
                  price={o.price}
                  set={(price) => change(o.id, { price })}
                  error={error('price')}
                  consequence={o.price === 0 ? 'free' : money(o.price)}
                  currency={currency}
                />
                <TextField
                  label="Quantity"
                  type="number"
                  value={o.quantity === null ? '' : String(o.quantity)}
                  set={(v) => change(o.id, { quantity: v === '' ? null : Number(v) })}
                  error={error('quantity')}
                  consequence={o.quantity ? `${o.quantity * o.seatsPerUnit} seats` : 'no limit'}
                />
                <TextField
                  label="Seats each"
                  type="number"
                  value={String(o.seatsPerUnit)}
                  set={(v) => change(o.id, { seatsPerUnit: Number(v) || 1 })}
                  error={error('seatsPerUnit')}
                />
                <TextField
                  label="Most per order"
                  type="number"
                  value={String(o.mostPerOrder)}
                  set={(v) => change(o.id, { mostPerOrder: Number(v) || 1 })}
                  error={error('mostPerOrder')}
                />
                <Button
                  look="plain"
                  marginTop="22px"
                  onClick={() => set(offers.filter((x) => x.id !== o.id))}
                  aria-label={`Remove ${o.name}`}
                >
                  <Trash2 size={15} aria-hidden /> Remove
                </Button>
              </chakra.div>
            </li>
          );
        })}
      </ul>
    </chakra.section>
  );
}

function PriceField({
  price,
  set,
  error,
  consequence,
  currency,
}: {
  price: number;
  set: (price: number) => void;
  error: string | undefined;
  consequence: string;
  currency: string;
}) {
  const [typed, setTyped] = useState(price === 0 ? '0' : plainAmount(price, currency));
  const read = readAmount(typed, currency);
  return (
    <TextField
      label="Price"
      value={typed}
      set={(v) => {
        setTyped(v);
        const amount = readAmount(v, currency);
        if (amount !== null) set(amount);
      }}
      error={read === null ? 'Give an amount, like 25 or 25.50.' : error}
      consequence={consequence}
    />
  );
}

const kinds = ['text', 'long text', 'yes or no', 'one of', 'several of'] as const;

/** What is asked, once per order or of every attendee. */
export function QuestionsEditor({
  questions,
  set,
  wrong,
}: {
  questions: QuestionPlan[];
  set: (questions: QuestionPlan[]) => void;
  wrong: Wrong;
}) {
  const change = (id: string, part: Partial<QuestionPlan>) =>
    set(questions.map((q) => (q.id === id ? { ...q, ...part } : q)));
  const add = () =>
    set([
      ...questions,
      {
        id: crypto.randomUUID(),
        offerId: null,
        scope: 'attendee',
        kind: 'text',
        prompt: { en: 'Question' },
        required: false,
        choices: [],
        atDoor: false,
      },
    ]);
  return (
    <chakra.section marginTop="18px">
      <div className="spread">
        <h3>Questions</h3>
        <Button onClick={add}>
          <Plus size={14} aria-hidden /> Ask something
        </Button>
      </div>
      {questions.length === 0 && (
        <chakra.p className="soft" fontSize="14px">
          Nothing is asked beyond names and an email address.
        </chakra.p>
      )}
      <ul className="lines">
        {questions.map((q, at) => (
          <li key={q.id}>
            <chakra.div display="grid" gridTemplateColumns="2fr 1fr 1fr auto" gap="0 10px" alignItems="start">
              <TextField
                label="Question"
                value={q.prompt.en}
                set={(en) => change(q.id, { prompt: { ...q.prompt, en } })}
                error={wrong[`questions.${at}.prompt.en`]}
              />
              <ChoiceField
                label="Asked"
                value={q.scope}
                set={(v) => change(q.id, { scope: v as QuestionPlan['scope'] })}
                choices={[
                  { value: 'order', label: 'once per order' },
                  { value: 'attendee', label: 'of everybody' },
                ]}
              />
              <ChoiceField
                label="Answer"
                value={q.kind}
                set={(v) => change(q.id, { kind: v as QuestionPlan['kind'] })}
                choices={kinds.map((k) => ({ value: k, label: k }))}
              />
              <Button
                look="plain"
                marginTop="22px"
                onClick={() => set(questions.filter((x) => x.id !== q.id))}
                aria-label={`Remove ${q.prompt.en}`}
              >
                <Trash2 size={15} aria-hidden /> Remove
              </Button>
            </chakra.div>
            <div className="pair">
              <TextField
                label="In French"
                value={q.prompt.fr ?? ''}
                set={(fr) => change(q.id, { prompt: { en: q.prompt.en, ...(fr ? { fr } : {}) } })}
              />
              {(q.kind === 'one of' || q.kind === 'several of') && (
                <TextField
                  label="Choices, separated by commas"
                  value={q.choices.join(', ')}
                  set={(v) => change(q.id, { choices: v.split(',').map((c) => c.trim()) })}
                  error={wrong[`questions.${at}.choices`]}
                />
              )}
            </div>
            <chakra.span display="flex" gap="18px" fontSize="14px">
              <Tick checked={q.required} set={(on) => change(q.id, { required: on })}>
                required
              </Tick>
              <Tick checked={q.atDoor} set={(on) => change(q.id, { atDoor: on })}>
                shown at the door
              </Tick>
            </chakra.span>
          </li>
        ))}
      </ul>
    </chakra.section>
  );
}

/** The survey after the event. */
export function SurveyEditor({
  survey,
  set,
}: {
  survey: EventPlan['survey'];
  set: (survey: EventPlan['survey']) => void;
}) {
  const begin = () =>
    set({
      title: { en: 'How was it?', fr: 'Comment était-ce ?' },
      anonymous: false,
      questions: [
        { id: 'liked', kind: 'scale', prompt: 'How did you like it?', choices: [], required: true },
        { id: 'words', kind: 'text', prompt: 'What should we do differently?', choices: [], required: false },
      ],
    });
  return (
    <chakra.section marginTop="18px">
      <div className="spread">
        <h3>Survey</h3>
        {survey ? (
          <Button look="plain" onClick={() => set(null)}>
            Remove the survey
          </Button>
        ) : (
          <Button onClick={begin}>
            <Plus size={14} aria-hidden /> Ask afterwards
          </Button>
        )}
      </div>
      {!survey && (
        <chakra.p className="soft" fontSize="14px">
          Nobody is asked afterwards.
        </chakra.p>
      )}
      {survey && (
        <>
          <Tick checked={survey.anonymous} set={(on) => set({ ...survey, anonymous: on })}>
            anonymous: answers cannot be traced to anybody
          </Tick>
          <ul className="lines">
            {survey.questions.map((q) => {
              const change = (part: Partial<typeof q>) =>
                set({
                  ...survey,
                  questions: survey.questions.map((x) => (x.id === q.id ? { ...x, ...part } : x)),
                });
              return (
                <chakra.li key={q.id} display="grid" gridTemplateColumns="2fr 1fr auto" gap="0 10px">
                  <TextField label="Question" value={q.prompt} set={(prompt) => change({ prompt })} />
                  <ChoiceField
                    label="Answer"
                    value={q.kind}
                    set={(v) =>
                      change({ kind: v as 'text', choices: v === 'one of' ? ['yes', 'perhaps', 'no'] : [] })
                    }
                    choices={[
                      { value: 'scale', label: '1 to 5' },
                      { value: 'one of', label: 'one of' },
                      { value: 'text', label: 'words' },
                    ]}
                  />
                  <Button
                    look="plain"
                    marginTop="22px"
                    alignSelf="start"
                    onClick={() =>
                      set({ ...survey, questions: survey.questions.filter((x) => x.id !== q.id) })
                    }
                    aria-label={`Remove ${q.prompt}`}
                  >
                    <Trash2 size={15} aria-hidden /> Remove
                  </Button>
                </chakra.li>
              );
            })}
          </ul>
          <Button
            look="plain"
            onClick={() =>
              set({
                ...survey,
                questions: [
                  ...survey.questions,
                  {
                    id: crypto.randomUUID().slice(0, 8),
                    kind: 'scale',
                    prompt: 'Question',
                    choices: [],
                    required: false,
                  },
                ],
              })
            }
          >
            <Plus size={14} aria-hidden /> Another question
          </Button>
        </>
      )}
    </chakra.section>
  );
}
