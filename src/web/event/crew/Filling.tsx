import { chakra } from '@chakra-ui/react';
import { useState } from 'react';
import type { CrewShift } from '#contract/crew.ts';
import type { RosterRun } from '#contract/filling.ts';
import { sayFromTo } from '#core/time/fromTo.ts';
import { sayShortDate } from '#core/time/say.ts';
import { Asking } from '#web/kit/Asking.tsx';
import { Button } from '#web/kit/Button.tsx';
import { OneOf, Tick } from '#web/kit/Choosing.tsx';
import { ListViews } from '#web/kit/ListViews.tsx';
import { Empty, Note } from '#web/kit/Note.tsx';
import { Loaded, Problems } from '#web/kit/notices.tsx';
import { Progress } from '#web/kit/Progress.tsx';
import { say } from '#web/kit/toast.tsx';
import { useAction, useAsk } from '#web/parts/ask.ts';
import { phrase } from '#web/words/phrase.ts';
import { wishWords } from './crewWords.ts';

type Answered = NonNullable<RosterRun['answer']>;
type Proposal = Answered['proposals'][number];

const keyOf = (p: { contactId: string; shiftId: string }): string => `${p.contactId} ${p.shiftId}`;
/** A shift in a line: "Safety boat, Sluice, Sat 8 Aug 09:00–12:00". */
const sayShift = (s: CrewShift): string =>
  `${[s.name, s.role, s.place].filter(Boolean).join(', ')}, ${sayShortDate(s.startsLocal, true)} ${sayFromTo(s)}`;

/** How far something is from what nothing can be better than, as a share; 0 where it is that. */
function gapOf({ so, bound }: RosterRun): number | null {
  if (!so || !bound) return null;
  for (const term of ['least', 'wished', 'wishes'] as const)
    if (bound[term] - so[term] > 1e-6) return (bound[term] - so[term]) / Math.max(1, Math.abs(bound[term]));
  return 0;
}
const sayGap = (gap: number | null): string =>
  gap === null
    ? ''
    : gap <= 0
      ? phrase('crew.isBest')
      : phrase('crew.isWithin', { percent: (Math.ceil(gap * 1000) / 10).toString() });

/** Fills the open shifts of an event all at once: works it out, shows who would be where, and puts them on, all or some. */
export function Filling({
  eventId,
  shifts,
  close,
}: {
  eventId: string;
  shifts: ReadonlyMap<string, CrewShift>;
  close: () => void;
}) {
  const params = { id: eventId };
  const [working, setWorking] = useState(true);
  const roster = useAsk('GET /api/events/:id/roster', { params, ...(working && { everyMs: 800 }) });
  const state = roster.data?.run?.state;
  if (roster.data && (state === 'working') !== working) setWorking(state === 'working');
  return (
    <Asking open wide close={close} title={phrase('crew.fillTitle')} actions={null}>
      <Loaded of={roster}>
        {({ accepted, open, run }) =>
          run?.state === 'working' ? (
            <Working eventId={eventId} run={run} />
          ) : run?.answer ? (
            <Proposed key={run.id} eventId={eventId} run={run} answer={run.answer} shifts={shifts} />
          ) : (
            <Begin eventId={eventId} accepted={accepted} open={open} failed={run?.state === 'failed'} />
          )
        }
      </Loaded>
    </Asking>
  );
}

function Begin({
  eventId,
  accepted,
  open,
  failed,
}: {
  eventId: string;
  accepted: number;
  open: number;
  failed: boolean;
}) {
  const [seconds, setSeconds] = useState('10');
  const begin = useAction('POST /api/events/:id/roster');
  return (
    <>
      {failed && <Note tone="stop">{phrase('crew.fillFailed')}</Note>}
      <Problems of={begin.problem} />
      <chakra.p marginBottom="12px">{phrase('crew.fillMeans', { accepted, open })}</chakra.p>
      {accepted === 0 && <p className="need">{phrase('crew.fillNobody')}</p>}
      <OneOf
        label={phrase('crew.fillHowLong')}
        value={seconds}
        set={setSeconds}
        choices={[
          { value: '5', label: phrase('crew.fillSeconds', { n: 5 }) },
          { value: '10', label: phrase('crew.fillSeconds', { n: 10 }) },
          { value: '60', label: phrase('crew.fillSeconds', { n: 60 }) },
        ]}
      />
      <div className="acts">
        <Button
          look="main"
          disabled={begin.isPending || open === 0}
          onClick={() => begin.mutate({ params: { id: eventId }, body: { seconds: Number(seconds) } })}
        >
          {phrase('crew.fillBegin')}
        </Button>
      </div>
    </>
  );
}

function Working({ eventId, run }: { eventId: string; run: RosterRun }) {
  const stop = useAction('POST /api/events/:id/roster/stop');
  return (
    <>
      <Problems of={stop.problem} />
      <Progress
        words={phrase('crew.fillWorking')}
        done={Math.min(run.seconds, Math.round(run.took))}
        all={run.seconds}
        sayAmount={(n) => phrase('crew.fillSeconds', { n })}
      />
      <p className="soft">{sayGap(gapOf(run))}</p>
      <div className="acts">
        <Button
          disabled={stop.isPending || run.stopping}
          onClick={() => stop.mutate({ params: { id: eventId } })}
        >
          {phrase(run.stopping ? 'crew.fillStopping' : 'crew.fillStop')}
        </Button>
      </div>
    </>
  );
}

function Proposed({
  eventId,
  run,
  answer: { proposals, unfilled, gap, people },
  shifts,
}: {
  eventId: string;
  run: RosterRun;
  answer: Answered;
  shifts: ReadonlyMap<string, CrewShift>;
}) {
  const params = { id: eventId };
  const [by, setBy] = useState<'shift' | 'person'>('shift');
  const [without, setWithout] = useState<ReadonlySet<string>>(new Set());
  const [left, setLeft] = useState<readonly { name: string; shiftId: string; why: string }[]>([]);
  const accept = useAction('POST /api/events/:id/roster/accept', (answer) => {
    say(phrase('crew.fillPut', { n: answer.put }));
    setLeft(answer.left);
  });
  const aside = useAction('DELETE /api/events/:id/roster');
  const chosen = proposals.filter((p) => !without.has(keyOf(p)));
  const groups = new Map<string, Proposal[]>();
  for (const p of proposals) {
    const key = by === 'shift' ? p.shiftId : p.contactId;
    groups.set(key, [...(groups.get(key) ?? []), p]);
  }
  const titleOf = (key: string, of: readonly Proposal[]): string => {
    const shift = shifts.get(key);
    return by === 'person' ? of[0]!.name : shift ? sayShift(shift) : '';
  };
  const inOrder = [...groups].sort(([a, of], [b, other]) =>
    by === 'shift'
      ? (shifts.get(a)?.startsAt ?? '').localeCompare(shifts.get(b)?.startsAt ?? '') || a.localeCompare(b)
      : of[0]!.name.localeCompare(other[0]!.name),
  );
  const toggle = (these: readonly Proposal[], on: boolean) => {
    const next = new Set(without);
    for (const p of these)
      if (on) next.delete(keyOf(p));
      else next.add(keyOf(p));
    setWithout(next);
  };
  return (
    <>
      <Problems of={accept.problem ?? aside.problem} />
      <p>
        {phrase('crew.fillAmong', { n: people })} {sayGap(gap)}
      </p>
      {left.length > 0 && (
        <Note as="div" tone="need" role="status">
          <p>{phrase('crew.fillLeft')}</p>
          <ul>
            {left.map((l) => {
              const shift = shifts.get(l.shiftId);
              return (
                <li key={`${l.name}${l.shiftId}`}>
                  {l.name}, {shift && sayShift(shift)}: {l.why}
                </li>
              );
            })}
          </ul>
        </Note>
      )}
      {proposals.length === 0 ? (
        <Empty padding="2px 0">{phrase('crew.fillNothing')}</Empty>
      ) : (
        <section aria-label={phrase('crew.fillWho')}>
          <div className="tools">
            <ListViews
              label={phrase('crew.fillBy')}
              value={by}
              set={setBy}
              views={[
                { value: 'shift', label: phrase('crew.fillByShift') },
                { value: 'person', label: phrase('crew.fillByPerson') },
              ]}
            />
          </div>
          <chakra.ul className="lines" maxHeight="44vh" overflowY="auto" tabIndex={0}>
            {inOrder.map(([key, of]) => (
              <li key={key}>
                <Tick checked={of.every((p) => !without.has(keyOf(p)))} set={(on) => toggle(of, on)}>
                  <span className={by === 'person' ? 'name' : ''}>{titleOf(key, of)}</span>
                </Tick>
                <chakra.div paddingLeft="26px">
                  {of.map((p) => {
                    const shift = shifts.get(p.shiftId);
                    return (
                      <Tick key={keyOf(p)} checked={!without.has(keyOf(p))} set={(on) => toggle([p], on)}>
                        {by === 'shift' ? <span className="name">{p.name}</span> : shift && sayShift(shift)}
                        {p.wish > 0 && <small className="soft"> {wishWords[p.wish]}</small>}
                      </Tick>
                    );
                  })}
                </chakra.div>
              </li>
            ))}
          </chakra.ul>
        </section>
      )}
      <chakra.div className="acts" margin="12px 0">
        {proposals.length > 0 && (
          <Button
            look="main"
            disabled={accept.isPending || chosen.length === 0}
            onClick={() =>
              accept.mutate({
                params,
                body: { pairs: chosen.map(({ contactId, shiftId }) => ({ contactId, shiftId })) },
              })
            }
          >
            {phrase('crew.fillAccept', { n: chosen.length })}
          </Button>
        )}
        <Button disabled={aside.isPending} onClick={() => aside.mutate({ params })}>
          {phrase(proposals.length ? 'crew.fillAside' : 'crew.fillAgain')}
        </Button>
      </chakra.div>
      {chosen.length > 0 && <p className="soft">{phrase('crew.fillTold')}</p>}
      {unfilled.length > 0 && (
        <section aria-label={phrase('crew.fillOpen')}>
          <h3>{phrase('crew.fillOpen')}</h3>
          <ul className="lines">
            {unfilled.map((u) => {
              const shift = shifts.get(u.shiftId);
              return (
                <li key={u.shiftId}>
                  {shift && sayShift(shift)}{' '}
                  <span className={u.wish ? 'soft' : 'need'}>
                    {phrase(u.wish ? 'crew.fillWished' : 'crew.fillMissing', { n: u.missing })}
                  </span>
                  <chakra.small display="block" color="soft">
                    {u.why}
                  </chakra.small>
                  {u.cheapest && (
                    <chakra.small display="block">
                      {u.cheapest} <span className="soft">{u.frees.join(', ')}</span>
                    </chakra.small>
                  )}
                </li>
              );
            })}
          </ul>
        </section>
      )}
      <p className="soft num">{phrase('crew.fillTook', { by: run.askedBy, seconds: Math.ceil(run.took) })}</p>
    </>
  );
}
