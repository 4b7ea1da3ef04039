import { chakra } from '@chakra-ui/react';
import { useEffect, useEffectEvent, useRef, useState } from 'react';
import { useNavigate } from 'react-router';
import { eventsContract, type SeasonEvent } from '#contract/events.ts';
import { recurring } from '#core/events/recurring.ts';
import { sayConsequence } from '#core/time/distance.ts';
import { sayLongDate, sayShortDate } from '#core/time/say.ts';
import { phrase } from '#web/words/phrase.ts';
import { Button } from '../kit/Button.tsx';
import { FormDialog } from '../kit/form/FormDialog.tsx';
import { DateField, Text } from '../kit/form/fields.tsx';
import { prepare } from '../kit/form/request.ts';
import { useForm } from '../kit/form/useForm.ts';
import { InlineText } from '../kit/Inline.tsx';
import { Chip } from '../kit/ListViews.tsx';
import { useAsk } from '../parts/ask.ts';
import { useSaying } from '../parts/saying.ts';

const ordinals = {
  1: phrase('season.first'),
  2: phrase('season.second'),
  3: phrase('season.third'),
  4: phrase('season.fourth'),
  last: phrase('season.last'),
} as const;
const weekdayOf = (date: string): string => sayLongDate(date).split(' ')[0]!;
const sayDay = (date: string): string => `${sayShortDate(date)} ${date.slice(0, 4)}`;
/** How many that recur are shown before anything is typed. */
const few = 6;

/** Begins an event: from a past one or a template, on a date that is proposed, or from nothing. */
export function Begin({
  events,
  from: given,
  close,
}: {
  events: readonly SeasonEvent[];
  from: string | null;
  close: () => void;
}) {
  const navigate = useNavigate();
  const { today } = useSaying();
  const [typed, setTyped] = useState('');
  const form = useForm({
    values: { from: given ?? '', publicTitle: '', date: '' },
    request: ({ from, publicTitle, date }) =>
      prepare(eventsContract, 'POST /api/events', {
        body: { publicTitle, from: from || null, date: (from && date) || null },
      }),
    after: ({ id }) => navigate(`/events/${id}/plan`),
  });
  const { from, date, publicTitle } = form.values;
  const source = events.find((e) => e.id === from);
  const again = useAsk('GET /api/events/:id/again', { params: { id: from }, enabled: from !== '' });
  const proposed = useRef('');
  // The title comes along unless somebody typed another.
  const propose = useEffectEvent((title: string) => {
    if (!publicTitle || publicTitle === proposed.current) form.set({ publicTitle: title });
    proposed.current = title;
  });
  useEffect(() => {
    propose(source?.title ?? '');
  }, [source?.title]);
  const words = typed.trim().toLowerCase();
  const found = recurring(events.filter((e) => !e.isTemplate && e.state !== 'shelved')).filter(([newest]) =>
    newest.title.toLowerCase().includes(words),
  );
  const templates = events.filter((e) => e.isTemplate && e.title.toLowerCase().includes(words));
  return (
    <FormDialog
      form={form}
      title={source ? phrase('season.planAgain', { title: source.title }) : phrase('season.planAnEvent')}
      submit={phrase('common.begin')}
      close={close}
    >
      {source ? (
        <>
          <chakra.p color="soft" marginBottom="10px">
            {phrase('season.asIn', {
              when: source.startsLocal ? sayDay(source.startsLocal) : phrase('season.noDateYet'),
            })}{' '}
            <Button look="link" onClick={() => form.set({ from: '', date: '' })}>
              {phrase('season.anotherOne')}
            </Button>
          </chakra.p>
          <chakra.div
            role="group"
            aria-label={phrase('season.when')}
            display="flex"
            flexWrap="wrap"
            gap="6px"
          >
            {(again.data?.proposals ?? []).map((p) => (
              <Chip key={p.date} aria-pressed={date === p.date} onClick={() => form.set({ date: p.date })}>
                {phrase(p.kind === 'year' ? 'season.theSame' : 'season.nextFree', {
                  ordinal: ordinals[p.ordinal],
                  weekday: weekdayOf(p.date),
                  date: sayDay(p.date),
                })}
                {!p.free && ` · ${phrase('season.placeTaken')}`}
              </Chip>
            ))}
            <Chip aria-pressed={date === ''} onClick={() => form.set({ date: '' })}>
              {phrase('season.dateLater')}
            </Chip>
          </chakra.div>
          <chakra.div marginTop="12px">
            <DateField
              form={form}
              name="date"
              label={phrase('common.date')}
              consequence={date ? sayConsequence(date, today) : phrase('season.withoutADateItWaits')}
            />
          </chakra.div>
        </>
      ) : (
        events.length > 0 && (
          <>
            <InlineText
              label={phrase('season.beginFrom')}
              placeholder={phrase('season.searchPast')}
              width="100%"
              value={typed}
              set={setTyped}
            />
            <chakra.ul
              listStyleType="none"
              padding="0"
              margin="6px 0 14px"
              aria-label={phrase('season.beginFrom')}
            >
              {templates.map((e) => (
                <From
                  key={e.id}
                  title={phrase('season.template', { title: e.title })}
                  more=""
                  choose={() => form.set({ from: e.id })}
                />
              ))}
              {found.slice(0, words ? undefined : few).map(([newest, ...before]) => (
                <From
                  key={newest.firstOf}
                  title={newest.title}
                  more={[
                    newest.startsLocal && sayDay(newest.startsLocal),
                    before.length > 0 && phrase('season.nTimes', { n: before.length + 1 }),
                  ]
                    .filter(Boolean)
                    .join(' · ')}
                  choose={() => form.set({ from: newest.id })}
                />
              ))}
              {words && found.length + templates.length === 0 && (
                <chakra.li color="soft">{phrase('season.noneFound', { q: typed.trim() })}</chakra.li>
              )}
            </chakra.ul>
          </>
        )
      )}
      <Text
        form={form}
        name="publicTitle"
        label={phrase('common.publicTitle')}
        required
        autoFocus={given === null}
        help={
          again.data
            ? phrase('season.comesAlong', again.data.brings)
            : source
              ? phrase('season.aCopyTakesTickets')
              : events.length > 0
                ? phrase('season.orFromNothing')
                : undefined
        }
      />
    </FormDialog>
  );
}

/** One thing to begin from. */
function From({ title, more, choose }: { title: string; more: string; choose: () => void }) {
  return (
    <chakra.li
      display="flex"
      justifyContent="space-between"
      gap="12px"
      borderBottom="1px solid"
      borderColor="line"
    >
      <Button look="link" fontFamily="title" fontWeight={500} color="ink" padding="5px 0" onClick={choose}>
        {title}
      </Button>
      <chakra.span color="soft" textStyle="figures" whiteSpace="nowrap" alignSelf="center">
        {more}
      </chakra.span>
    </chakra.li>
  );
}
