import { chakra } from '@chakra-ui/react';
import { useState } from 'react';
import type { EventPage } from '#contract/events.ts';
import { sayFigure } from '#core/outcomes/measure.ts';
import { readTexts } from '#core/words/texts.ts';
import { addressOf } from '#web/api.ts';
import { Button, ButtonAnchor, TextLink } from '#web/kit/Button.tsx';
import { Empty, Note } from '#web/kit/Note.tsx';
import { Loaded, Problems } from '#web/kit/notices.tsx';
import { say } from '#web/kit/toast.tsx';
import { useAction, useAsk } from '#web/parts/ask.ts';
import { useSaying } from '#web/parts/saying.ts';
import { phrase } from '#web/words/phrase.ts';
import { EnterTallies } from './EnterTallies.tsx';
import { TallyLines } from './TallyLines.tsx';
import { type Shown, useDeciding } from './tallies.ts';

type MeasureShown = Shown['measures'][number];

/** What an event changed: what was counted, by what it took, beside the last time; every tally; and the page where people count. */
export function Outcomes({ page }: { page: EventPage }) {
  const outcomes = useAsk('GET /api/events/:id/outcomes', { params: { id: page.id } });
  const may = page.may.change.includes('wrap-up');
  return (
    <Loaded of={outcomes}>
      {(o) =>
        o.measures.length === 0 ? (
          <Empty>
            {phrase('outcomes.none')}{' '}
            {may && <TextLink to={`/events/${page.id}/plan`}>{phrase('outcomes.addOne')}</TextLink>}
          </Empty>
        ) : (
          <>
            <h2>{o.measures.map(finding).filter(Boolean).join(' · ') || phrase('outcomes.noTallies')}</h2>
            <Totals of={o} />
            <Waiting of={o} eventId={page.id} may={may} />
            <Page of={o} eventId={page.id} may={may} />
            {may && <EnterTallies of={o} eventId={page.id} />}
            <TallyLines of={o} eventId={page.id} may={may} />
          </>
        )
      }
    </Loaded>
  );
}

/** What of a measure is worth a heading. */
const finding = (m: MeasureShown): string =>
  m.total === null || m.tallies === 0 ? '' : `${readTexts(m.name, 'en')}: ${sayFigure(m.total, m)}`;

function Totals({ of: { measures, took, initiatives, counting } }: { of: Shown }) {
  const { money, currency, at } = useSaying();
  const [before] = measures.flatMap((m) => m.before ?? []);
  const each = (value: number | null, m: MeasureShown) =>
    value === null ? '' : sayFigure(value, { ...m, decimals: Math.max(m.decimals, value < 10 ? 2 : 1) });
  const said = [
    took.heads > 0 && phrase('outcomes.tookHeads', { heads: took.heads }),
    took.hours > 0 && phrase('outcomes.tookHours', { hours: took.hours }),
    took.spent > 0 && phrase('outcomes.tookSpent', { spent: money(took.spent, currency) }),
  ].filter(Boolean);
  const hasEach = (of: keyof MeasureShown['per']) => measures.some((m) => m.per[of] !== null);
  return (
    <>
      <p className="soft">
        {counting.from && counting.until
          ? phrase('outcomes.countsInWindow', { from: at(counting.from), until: at(counting.until) })
          : phrase('outcomes.windowUndated')}
        {initiatives.length > 0 &&
          ` ${phrase('outcomes.towards', { names: initiatives.map((i) => i.name).join(', ') })}`}
      </p>
      <div className="table still">
        <table>
          <thead>
            <tr>
              <th scope="col">{phrase('outcomes.measure')}</th>
              <th scope="col" className="n">
                {phrase('outcomes.total')}
              </th>
              <th scope="col" className="n">
                {phrase('outcomes.planned')}
              </th>
              {before && (
                <th scope="col" className="n" title={before.title}>
                  {phrase('outcomes.before')}
                </th>
              )}
              {hasEach('head') && (
                <th scope="col" className="n">
                  {phrase('outcomes.perHead')}
                </th>
              )}
              {hasEach('hour') && (
                <th scope="col" className="n">
                  {phrase('outcomes.perHour')}
                </th>
              )}
              {hasEach('spent') && (
                <th scope="col" className="n">
                  {phrase('outcomes.perMoney', { money: money(100) })}
                </th>
              )}
              <th scope="col" className="n">
                {phrase('outcomes.nTallies')}
              </th>
            </tr>
          </thead>
          <tbody>
            {measures.map((m) => (
              <tr key={m.id}>
                <td>{readTexts(m.name, 'en')}</td>
                <td className="n">{m.total === null || !m.tallies ? '' : sayFigure(m.total, m)}</td>
                <td className="n">{m.planned === null ? '' : sayFigure(m.planned, m)}</td>
                {before && <td className="n">{m.before?.total ? sayFigure(m.before.total, m) : ''}</td>}
                {hasEach('head') && <td className="n">{each(m.per.head, m)}</td>}
                {hasEach('hour') && <td className="n">{each(m.per.hour, m)}</td>}
                {hasEach('spent') && <td className="n">{each(m.per.spent, m)}</td>}
                <td className="n">{m.tallies}</td>
              </tr>
            ))}
          </tbody>
        </table>
      </div>
      <p className="soft num">{said.length > 0 && phrase('outcomes.took', { what: said.join(', ') })}</p>
    </>
  );
}

/** Tallies that wait to be looked at, with why. */
function Waiting({ of, eventId, may }: { of: Shown; eventId: string; may: boolean }) {
  const waiting = of.tallies.filter((t) => t.state === 'waiting');
  const decide = useDeciding();
  if (!waiting.length) return null;
  return (
    <Note tone="need" marginTop="12px">
      <div className="spread">
        <b>{phrase('outcomes.waitingTitle', { n: waiting.length })}</b>
        {may && waiting.length > 1 && (
          <Button
            disabled={decide.isPending}
            onClick={() =>
              decide.mutate({
                params: { id: eventId },
                body: { ids: waiting.map((t) => t.id), state: 'counted' },
              })
            }
          >
            {phrase('outcomes.countAll', { n: waiting.length })}
          </Button>
        )}
      </div>
      <Problems of={decide.problem} />
      <TallyLines of={{ ...of, tallies: waiting }} eventId={eventId} may={may} bare />
    </Note>
  );
}

/** The page where people count, and its poster. */
function Page({ of, eventId, may }: { of: Shown; eventId: string; may: boolean }) {
  const [asked, setAsked] = useState(false);
  const set = useAction('PUT /api/events/:id/counting', ({ page }) =>
    say(phrase(page ? 'outcomes.pageStarted' : 'outcomes.pageStopped')),
  );
  if (!may && !of.page) return null;
  const others = of.measures.some((m) => m.enteredBy !== 'team');
  return (
    <chakra.section marginTop="18px">
      <h3>{phrase('outcomes.page')}</h3>
      <p className="soft">
        {phrase(of.page ? 'outcomes.pageOn' : others ? 'outcomes.pageSays' : 'outcomes.pageNobody')}{' '}
        {of.page && (
          <chakra.a href={of.page} target="_blank" rel="noopener" overflowWrap="anywhere">
            {of.page}
          </chakra.a>
        )}
      </p>
      <Problems of={set.problem} />
      <chakra.div className="acts" marginTop="6px">
        {of.page && (
          <ButtonAnchor href={addressOf('GET /api/events/:id/counting.pdf', { id: eventId })}>
            {phrase('outcomes.poster')}
          </ButtonAnchor>
        )}
        {may && (of.page || others) && (
          <Button
            look={of.page ? 'plain' : 'normal'}
            disabled={set.isPending || asked}
            onClick={() => {
              setAsked(true);
              set.mutate(
                { params: { id: eventId }, body: { on: !of.page } },
                { onSettled: () => setAsked(false) },
              );
            }}
          >
            {phrase(of.page ? 'outcomes.stopPage' : 'outcomes.startPage')}
          </Button>
        )}
      </chakra.div>
    </chakra.section>
  );
}
