import { chakra } from '@chakra-ui/react';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import type { EventPage } from '#contract/events.ts';
import { sayConsequences } from '#core/events/consequences.ts';
import type { PlanField } from '#core/events/parts.ts';
import { type Answer, call } from '#web/api.ts';
import { Button, TextLink } from '#web/kit/Button.tsx';
import { Note } from '#web/kit/Note.tsx';
import { phrase } from '#web/words/phrase.ts';
import { Asking } from '../../kit/Asking.tsx';
import { OneOf, Tick } from '../../kit/Choosing.tsx';
import { Menu } from '../../kit/Menu.tsx';
import { Problems } from '../../kit/notices.tsx';
import { say } from '../../kit/toast.tsx';
import { useAction, useAsk } from '../../parts/ask.ts';
import { sayDay } from '../../season/SeriesForm.tsx';
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
  const body = { fields, scope, also };
  const params = { id: page.id };
  const told = useQuery({
    queryKey: ['carry', page.id, page.version, JSON.stringify(body)],
    queryFn: () => call('POST /api/events/:id/series/carry/what-if', { params, body }),
    enabled: fields.length > 0,
    retry: false,
  });
  const carry = useAction('POST /api/events/:id/series/carry', ({ dates }) => {
    close();
    say(phrase('series.tookOver', { n: dates.filter((d) => d.changes.length).length }));
  });
  const back = useAction('POST /api/events/:id/series/back', () => {
    close();
    say(phrase('series.wentBack'));
  });
  const shortly = (value: unknown) => {
    const said = sayNamed(value);
    return said.length > 60 ? `${said.slice(0, 59)}…` : said;
  };
  const carried = standing.differs.filter((d) => fields.includes(d.field)).every((d) => d.carries);
  const changing = told.data?.dates.filter((d) => d.changes.length) ?? [];
  const keeping = told.data?.dates.filter((d) => d.keeps.length) ?? [];
  return (
    <Asking
      open
      wide
      title={phrase('series.takeOverTitle')}
      close={close}
      actions={
        <>
          <Button
            look="main"
            disabled={!fields.length || !carried || carry.isPending || !told.data}
            onClick={() => carry.mutate({ params, body })}
          >
            {phrase('series.takeOverNow')}
          </Button>
          <Button
            disabled={!fields.length || back.isPending}
            onClick={() => back.mutate({ params, body: { fields } })}
          >
            {phrase('series.backToSeries')}
          </Button>
        </>
      }
    >
      <Problems of={carry.problem ?? back.problem} />
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
      {told.data && carried && (
        <chakra.div role="status" fontSize="14px">
          <p>
            {changing.length
              ? phrase('series.willChange', { n: changing.length })
              : phrase('series.noneChanges')}
            {changing.length > 0 && `: ${changing.map((d) => sayDay(d.startsLocal ?? '')).join(', ')}.`}
          </p>
          {sayConsequences(told.data.followed, false).map((line) => (
            <chakra.p key={line} color="soft">
              {line}
            </chakra.p>
          ))}
        </chakra.div>
      )}
      {[...new Set([...keeping.map((d) => d.id), ...also])].map((id) => {
        const date = told.data?.dates.find((d) => d.id === id);
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
    </Asking>
  );
}
