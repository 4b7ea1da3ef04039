import { chakra } from '@chakra-ui/react';
import { useState } from 'react';
import type { EventPage } from '#contract/events.ts';
import { seriesContract } from '#contract/series.ts';
import type { PlanField } from '#core/events/parts.ts';
import { type Answer, call } from '#web/api.ts';
import { Button, TextLink } from '#web/kit/Button.tsx';
import { Note } from '#web/kit/Note.tsx';
import { phrase } from '#web/words/phrase.ts';
import { OneOf, Tick } from '../../kit/Choosing.tsx';
import { FormDialog } from '../../kit/form/FormDialog.tsx';
import { prepare } from '../../kit/form/request.ts';
import { useForm } from '../../kit/form/useForm.ts';
import { Menu } from '../../kit/Menu.tsx';
import { Problems } from '../../kit/notices.tsx';
import { say } from '../../kit/toast.tsx';
import { useAction, useAsk } from '../../parts/ask.ts';
import { sayDay } from '../../season/SeriesForm.tsx';
import { tellsNow } from '../changes/changeWords.ts';
import { fieldOfSettled, nothingSettled, settledTogether } from '../changes/settling.ts';
import { Together } from '../changes/Together.tsx';
import { useTold } from '../changes/useTold.ts';
import { fieldTitles } from './fieldWords.ts';
import { useSayValue } from './sayingChanges.ts';

type Standing = NonNullable<Answer<'GET /api/events/:id/series'>>;

/** How a date stands to its series: what is its own, and the ways to bring both together. */
export function InSeries({ page }: { page: EventPage }) {
  const standing = useAsk('GET /api/events/:id/series', {
    params: { id: page.id },
    enabled: page.seriesId !== null,
  }).data;
  const [asking, setAsking] = useState(false);
  const leave = useAction('POST /api/events/:id/series/leave', () => say(phrase('series.left')));
  if (!page.seriesId || !standing) return null;
  const may = page.may.change.includes('plan') && page.moves.length > 0;
  const { differs } = standing;
  return (
    <Note tone="know">
      <chakra.span>
        {phrase('series.aDateOf', { said: standing.said })}{' '}
        {differs.length
          ? phrase('series.saysOtherwise', { fields: differs.map((d) => fieldTitles[d.field]).join(', ') })
          : phrase('series.asTheSeries')}
      </chakra.span>
      <chakra.span display="flex" flexWrap="wrap" gap="2px 14px" alignItems="baseline">
        {may && differs.length > 0 && (
          <Button look="link" color="verdigris" onClick={() => setAsking(true)}>
            {phrase('series.takeOver')}
          </Button>
        )}
        <TextLink to={`/season/series/${standing.id}`}>{phrase('series.toSeries')}</TextLink>
        {may && (
          <Menu
            trigger={
              <Button look="link" color="soft">
                {phrase('event.more')}
              </Button>
            }
            entries={[
              { label: phrase('series.leave'), run: () => leave.mutate({ params: { id: page.id } }) },
            ]}
          />
        )}
      </chakra.span>
      <Problems of={leave.problem} />
      {asking && <TakeOver page={page} standing={standing} close={() => setAsking(false)} />}
    </Note>
  );
}

/** Takes what one date says otherwise over into its series, or puts it back; says first which dates change. */
function TakeOver({ page, standing, close }: { page: EventPage; standing: Standing; close: () => void }) {
  const sayNamed = useSayValue(page);
  const [fields, setFields] = useState<PlanField[]>([]);
  const [scope, setScope] = useState<'later' | 'all'>('later');
  const [also, setAlso] = useState<string[]>([]);
  const params = { id: page.id };
  const form = useForm({
    values: nothingSettled(false),
    request: (v) =>
      prepare(seriesContract, 'POST /api/events/:id/series/carry', {
        params,
        body: { fields, scope, also, settle: settledTogether(v) },
      }),
    fieldOf: fieldOfSettled,
    after: ({ dates }) => {
      close();
      say(phrase('series.tookOver', { n: dates.filter((d) => d.changes.length).length }));
    },
  });
  const carried = standing.differs.filter((d) => fields.includes(d.field)).every((d) => d.carries);
  const { told, busy, problem } = useTold(
    ['carry', page.id, String(page.version)],
    { fields, scope, also, settle: settledTogether(form.values) },
    (body) => call('POST /api/events/:id/series/carry/what-if', { params, body }),
    !fields.length || !carried || form.sending,
  );
  const back = useAction('POST /api/events/:id/series/back', () => {
    close();
    say(phrase('series.wentBack'));
  });
  const shortly = (value: unknown) => {
    const said = sayNamed(value);
    return said.length > 60 ? `${said.slice(0, 59)}…` : said;
  };
  const shown = fields.length && carried ? told : null;
  const changing = shown?.dates.filter((d) => d.changes.length) ?? [];
  const keeping = shown?.dates.filter((d) => d.keeps.length) ?? [];
  const tells = tellsNow(shown?.letters);
  return (
    <FormDialog
      form={form}
      wide
      title={phrase('series.takeOverTitle')}
      close={close}
      disabled={!shown || busy || problem !== null}
      submit={tells ? phrase('series.takeOverAndTell', { count: tells }) : phrase('series.takeOverNow')}
      beside={
        <Button
          disabled={!fields.length || back.isPending}
          onClick={() => back.mutate({ params, body: { fields } })}
        >
          {phrase('series.backToSeries')}
        </Button>
      }
    >
      <Problems of={back.problem} />
      <chakra.div role="group" aria-label={phrase('series.takeOverWhat')}>
        {standing.differs.map((d) => (
          <chakra.div key={d.field} padding="5px 0" borderBottom="1px solid" borderColor="line">
            <Tick
              checked={fields.includes(d.field)}
              set={(on) => setFields(on ? [...fields, d.field] : fields.filter((f) => f !== d.field))}
            >
              <chakra.span fontWeight={500}>{fieldTitles[d.field]}</chakra.span>
              <chakra.span display="block" fontSize="13.5px" color="soft">
                {phrase('series.here')}: {shortly(d.here)} · {phrase('series.inSeries')}: {shortly(d.series)}
              </chakra.span>
            </Tick>
          </chakra.div>
        ))}
      </chakra.div>
      {!carried && (
        <chakra.p color="ochre" marginTop="8px">
          {phrase('series.startIsRules')}
        </chakra.p>
      )}
      <chakra.div marginTop="14px">
        <OneOf
          label={phrase('series.forWhich')}
          help={phrase('series.andNew')}
          value={scope}
          set={(to) => setScope(to as typeof scope)}
          choices={[
            { value: 'later', label: phrase('series.forLater') },
            { value: 'all', label: phrase('series.forAll') },
          ]}
        />
      </chakra.div>
      {shown && (
        <chakra.p role="status" fontSize="14px">
          {changing.length
            ? phrase('series.willChange', { n: changing.length })
            : phrase('series.noneChanges')}
          {changing.length > 0 && `: ${changing.map((d) => sayDay(d.startsLocal ?? '')).join(', ')}.`}
        </chakra.p>
      )}
      {[...new Set([...keeping.map((d) => d.id), ...also])].map((id) => {
        const date = shown?.dates.find((d) => d.id === id);
        const when = sayDay(date?.startsLocal ?? '');
        return (
          <Tick
            key={id}
            checked={also.includes(id)}
            set={(on) => setAlso(on ? [...also, id] : also.filter((a) => a !== id))}
          >
            {date?.keeps.length
              ? `${when} ${phrase('series.keepsOwn', { fields: date.keeps.map((f) => fieldTitles[f]).join(', ') })}; ${phrase('series.giveUp')}`
              : phrase('series.giveUpOn', { date: when })}
          </Tick>
        );
      })}
      {fields.length > 0 && carried && (
        <Together told={told} busy={busy} problem={problem} form={form} zone={page.plan.zone} />
      )}
    </FormDialog>
  );
}
