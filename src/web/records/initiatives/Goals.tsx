import { chakra } from '@chakra-ui/react';
import { Plus } from 'lucide-react';
import { initiativesContract } from '#contract/initiatives.ts';
import { shiftDate } from '#core/time/dates.ts';
import { readTexts } from '#core/words/texts.ts';
import { Button } from '#web/kit/Button.tsx';
import { Form } from '#web/kit/form/Form.tsx';
import { Choose, DateField, LongText, Text } from '#web/kit/form/fields.tsx';
import { prepare } from '#web/kit/form/request.ts';
import { useForm } from '#web/kit/form/useForm.ts';
import { Loaded } from '#web/kit/notices.tsx';
import { say } from '#web/kit/toast.tsx';
import { useAsk } from '#web/parts/ask.ts';
import { phrase } from '#web/words/phrase.ts';
import type { Shown } from './initiative.ts';

interface Typed {
  id: string;
  of: string;
  measureId: string;
  target: string;
  from: string;
  by: string;
}

/** What an initiative is about, and what it wants to reach by when. */
export function Goals({ of, close }: { of: Shown; close: () => void }) {
  return (
    <Loaded of={useAsk('GET /api/measures')}>
      {(measures) => <Change of={of} measures={measures} close={close} />}
    </Loaded>
  );
}

function Change({
  of,
  measures,
  close,
}: {
  of: Shown;
  measures: readonly { id: string; name: { en: string }; unit: { en: string }; closed: boolean }[];
  close: () => void;
}) {
  const form = useForm({
    values: {
      about: of.about,
      fundId: of.fundId ?? '',
      goals: of.goals.map(
        ({ id, of: what, measureId, target, from, by }): Typed => ({
          id,
          of: what,
          measureId: measureId ?? '',
          target: String(target),
          from,
          by,
        }),
      ),
    },
    request: ({ about, fundId, goals }) =>
      prepare(initiativesContract, 'PUT /api/initiatives/:id', {
        params: { id: of.id },
        body: {
          about,
          fundId: fundId || null,
          version: of.version,
          goals: goals.map((g) => ({
            ...g,
            of: g.of as 'measure',
            measureId: g.of === 'measure' ? g.measureId || null : null,
            target: g.target.trim() ? Number(g.target.replace(',', '.')) : Number.NaN,
          })),
        },
      }),
    after: () => {
      say(phrase('common.saved'));
      close();
    },
  });
  const funds = useAsk('GET /api/choices').data?.funds ?? [];
  const { goals } = form.values;
  const unit = (g: Typed) =>
    g.of === 'measure'
      ? measures.find((m) => m.id === g.measureId)?.unit.en
      : g.of === 'hours'
        ? 'h'
        : of.currency;
  return (
    <Form
      form={form}
      submit={phrase('common.save')}
      beside={<Button onClick={close}>{phrase('common.cancel')}</Button>}
    >
      <LongText form={form} name="about" label={phrase('initiatives.about')} rows={2} />
      <Choose
        form={form}
        name="fundId"
        label={phrase('initiatives.fund')}
        empty={phrase('initiatives.noFund')}
        choices={funds.map((f) => ({ value: f.id, label: f.name }))}
      />
      {goals.map((goal, at) => (
        <chakra.fieldset key={goal.id} borderTop="1px solid" borderColor="line" padding="8px 0 4px">
          <legend className="spread">
            <b>{phrase('initiatives.goalN', { n: at + 1 })}</b>
          </legend>
          <div className="pair">
            <Choose
              form={form}
              name={`goals.${at}.of`}
              label={phrase('initiatives.whatCounts')}
              choices={[
                { value: 'measure', label: phrase('initiatives.measure') },
                { value: 'gifts', label: phrase('initiatives.gifts', { currency: of.currency }) },
                { value: 'hours', label: phrase('initiatives.hours') },
              ]}
            />
            {goal.of === 'measure' && (
              <Choose
                form={form}
                name={`goals.${at}.measureId`}
                label={phrase('initiatives.which')}
                empty={phrase('initiatives.chooseMeasure')}
                choices={measures
                  .filter((m) => !m.closed || m.id === goal.measureId)
                  .map((m) => ({ value: m.id, label: readTexts(m.name, 'en') }))}
              />
            )}
          </div>
          <chakra.div display="grid" gridTemplateColumns={{ base: '1fr', md: '1fr 1fr 1fr' }} gap="0 16px">
            <Text
              form={form}
              name={`goals.${at}.target`}
              label={[phrase('initiatives.target'), unit(goal)].filter(Boolean).join(', ')}
              inputMode="decimal"
              required
            />
            <DateField form={form} name={`goals.${at}.from`} label={phrase('initiatives.from')} required />
            <DateField form={form} name={`goals.${at}.by`} label={phrase('initiatives.by')} required />
          </chakra.div>
          <Button look="link" onClick={() => form.set({ goals: goals.filter((g) => g.id !== goal.id) })}>
            {phrase('initiatives.takeAway')}
          </Button>
        </chakra.fieldset>
      ))}
      <p>
        <Button
          onClick={() =>
            form.set({
              goals: [
                ...goals,
                {
                  id: crypto.randomUUID(),
                  of: 'measure',
                  measureId: '',
                  target: '',
                  from: of.today,
                  by: shiftDate(of.today, 365),
                },
              ],
            })
          }
        >
          <Plus size={14} aria-hidden /> {phrase('initiatives.addGoal')}
        </Button>
      </p>
    </Form>
  );
}
