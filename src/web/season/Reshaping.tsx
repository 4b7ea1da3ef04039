import { chakra } from '@chakra-ui/react';
import { type SeriesChange, type SeriesChanged, seriesContract } from '#contract/series.ts';
import { call } from '#web/api.ts';
import { phrase } from '#web/words/phrase.ts';
import { tellsNow } from '../event/changes/changeWords.ts';
import { OffMoney } from '../event/changes/OffMoney.tsx';
import { fieldOfSettled, nothingSettled, type Settled, settledTogether } from '../event/changes/settling.ts';
import { Together } from '../event/changes/Together.tsx';
import { useTold } from '../event/changes/useTold.ts';
import { FormDialog } from '../kit/form/FormDialog.tsx';
import { LongText } from '../kit/form/fields.tsx';
import { prepare } from '../kit/form/request.ts';
import { useForm } from '../kit/form/useForm.ts';
import { InlineChoice } from '../kit/Inline.tsx';
import { sayDay } from './SeriesForm.tsx';

type Fate = SeriesChanged['fates'][number];
type Decision = SeriesChange['decisions'][number]['become'];

/** What a change of the rule brings about: dates it no longer has are decided one by one where people are on them, and told. */
export function Reshaping({
  first,
  seriesId,
  zone,
  body,
  close,
  done,
}: {
  /** What was told when it was asked for. */
  first: SeriesChanged;
  seriesId: string;
  zone: string;
  /** The change, but for what is decided here. */
  body: Omit<SeriesChange, 'decisions' | 'words' | 'settle'>;
  close: () => void;
  done: (made: readonly string[]) => void;
}) {
  const form = useForm({
    values: nothingSettled(true),
    request: (v) =>
      prepare(seriesContract, 'PATCH /api/series/:id', { params: { id: seriesId }, body: sent(body, v) }),
    fieldOf: fieldOfSettled,
    after: ({ made }) => done(made),
  });
  const {
    told: now,
    busy,
    problem,
  } = useTold(
    ['series', seriesId],
    sent(body, form.values),
    (asked) => call('POST /api/series/:id/what-if', { params: { id: seriesId }, body: asked }),
    form.sending,
  );
  const told = now ?? first;
  const { decisions } = form.values;
  const missing = told.fates.some((f) => f.open && !decisions[f.id]);
  const callsOff = Object.values(decisions).includes('call off');
  const tells = tellsNow(told.letters);
  return (
    <FormDialog
      form={form}
      wide
      title={phrase('series.whatBecomes')}
      close={close}
      disabled={missing || busy || problem !== null}
      submit={tells ? phrase('changes.saveAndTell', { count: tells }) : phrase('series.changeIt')}
    >
      <p>{phrase('series.whatBecomesText', { n: told.fates.length })}</p>
      <chakra.ul listStyleType="none" margin="10px -4px" padding="0 4px" maxHeight="50vh" overflowY="auto">
        {told.fates.map((f) => (
          <chakra.li
            key={f.id}
            display="grid"
            gridTemplateColumns={{ base: '1fr', md: '170px 80px 1fr' }}
            gap="2px 14px"
            alignItems="baseline"
            padding="6px 0"
            borderBottom="1px solid"
            borderColor="line"
          >
            <span className="num">{f.startsLocal ? sayDay(f.startsLocal) : ''}</span>
            <chakra.span color={f.people ? 'ink' : 'soft'} fontWeight={f.people ? 500 : 400}>
              {f.ofOthers
                ? ''
                : f.people
                  ? phrase('series.nPeople', { n: f.people })
                  : phrase('series.nobody')}
            </chakra.span>
            {f.ofOthers ? (
              <span className="soft">{phrase('series.keptByOthers')}</span>
            ) : f.people ? (
              <InlineChoice
                label={phrase('series.becomes', { date: f.startsLocal ? sayDay(f.startsLocal) : '' })}
                value={decisions[f.id] ?? ''}
                set={(become) => form.set({ decisions: { ...decisions, [f.id]: become as Decision } })}
                empty={phrase('series.choose')}
                choices={[
                  ...(f.to ? [{ value: 'move', label: sayFate({ ...f, become: 'move' }) }] : []),
                  { value: 'keep', label: phrase('series.keep') },
                  { value: 'call off', label: phrase('series.callOff') },
                ]}
              />
            ) : (
              <span className="soft">{sayFate(f)}</span>
            )}
          </chakra.li>
        ))}
      </chakra.ul>
      {callsOff && <LongText form={form} name="words" label={phrase('series.words')} rows={2} required />}
      {told.money && <OffMoney form={form} money={told.money} />}
      <Together told={told} busy={busy} problem={problem} form={form} zone={zone} words={!callsOff} />
    </FormDialog>
  );
}

const sent = (of: Omit<SeriesChange, 'decisions' | 'words' | 'settle'>, v: Settled): SeriesChange => ({
  ...of,
  decisions: Object.entries(v.decisions).map(([id, become]) => ({ id, become })),
  words: v.words,
  settle: settledTogether(v),
});

function sayFate({ become, to }: Fate): string {
  switch (become) {
    case 'move':
      return phrase('series.move', { date: to ? sayDay(to) : '' });
    case 'keep':
      return phrase('series.keep');
    case 'call off':
      return phrase('series.callOff');
    case 'go':
      return phrase('series.go');
  }
}
