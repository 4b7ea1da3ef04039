import { chakra } from '@chakra-ui/react';
import { lazy, Suspense, useMemo, useState } from 'react';
import type { CrewShift } from '#contract/crew.ts';
import type { EventPage } from '#contract/events.ts';
import { isShown, type LaneBy } from '#core/crew/board.ts';
import type { SheetKind } from '#core/crew/sheetKinds.ts';
import { wallOf } from '#core/time/wallTime.ts';
import { addressOf } from '#web/api.ts';
import { CallForm } from '#web/crew/CallForm.tsx';
import { Button, ButtonLink } from '#web/kit/Button.tsx';
import { Tick } from '#web/kit/Choosing.tsx';
import { InlineChoice, InlineText } from '#web/kit/Inline.tsx';
import { Menu } from '#web/kit/Menu.tsx';
import { Empty } from '#web/kit/Note.tsx';
import { Loaded, Problems } from '#web/kit/notices.tsx';
import { SlideOver } from '#web/kit/SlideOver.tsx';
import { say } from '#web/kit/toast.tsx';
import { useAddress } from '#web/kit/useAddress.ts';
import { useAction, useAsk, useMe } from '#web/parts/ask.ts';
import { Roles } from '#web/parts/Roles.tsx';
import { useSaying } from '#web/parts/saying.ts';
import { phrase } from '#web/words/phrase.ts';
import { Assign } from './Assign.tsx';
import { Board, daysToShow, type Put, type Zoom, zooms } from './Board.tsx';
import { CutShift } from './CutShift.tsx';
import { Filling } from './Filling.tsx';
import { ManyShifts } from './ManyShifts.tsx';
import { MoveShift, withChange } from './MoveShift.tsx';
import { OnTheDay } from './OnTheDay.tsx';
import { ShiftForm } from './ShiftForm.tsx';
import { ShiftPanel } from './ShiftPanel.tsx';
import { StepIn } from './StepIn.tsx';
import { Swaps } from './Swaps.tsx';
import { WriteToCrew } from './WriteToCrew.tsx';

// What draws charts is large, and only loaded by whoever looks at them.
const Figures = lazy(() => import('./Figures.tsx'));

/** What stands open over the board, and about which shift. */
type Open =
  | { what: 'add' | 'many' | 'roles' | 'call' | 'fill' | 'swaps' | 'mail' | 'figures' }
  | { what: 'change' | 'copy' | 'cut' | 'assign' | 'step in'; id: string }
  | { what: 'move'; id: string; to: Put };

/** What can be printed. */
const sheets: readonly (readonly [SheetKind, string])[] = [
  ['day', phrase('crew.sheetDay')],
  ['role', phrase('crew.sheetRole')],
  ['place', phrase('crew.sheetPlace')],
  ['person', phrase('crew.sheetPerson')],
  ['sign in', phrase('crew.sheetSignIn')],
];

/** What can be printed and taken along, as a menu offers it. */
const printing = (id: string) => [
  ...sheets.map(([by, label]) => ({
    label,
    run: () => window.open(addressOf('GET /api/events/:id/crew.pdf', { id }, { by }), '_blank', 'noreferrer'),
  })),
  {
    label: phrase('crew.asTable'),
    run: () => window.open(addressOf('GET /api/events/:id/crew.csv', { id }), '_self'),
  },
];

const usual = { by: 'role', flow: 'across', day: '', zoom: '', words: '', gaps: '' };

/** The crew of an event: its shifts on a board of the day, who is on each, and who asks for one. */
export default function CrewSheet({ page }: { page: EventPage }) {
  const crew = useAsk('GET /api/events/:id/crew', {
    params: { id: page.id },
    // While a shift goes on, who is late changes by the clock alone.
    everyMs: (answer) =>
      answer?.shifts.some((s) => s.startsAt <= answer.now && s.endsAt > answer.now) ? 20_000 : undefined,
  });
  const { now } = useSaying();
  const [address, put] = useAddress(usual);
  const [shownId, setShownId] = useState<string | null>(null);
  const [open, setOpen] = useState<Open | null>(null);
  const may = page.may.change.includes('crew');
  const call = useAsk('GET /api/calls', { query: { eventId: page.id }, enabled: may }).data?.[0];
  const roles = useMe().data?.staff.roles ?? [];
  const register = roles.includes('coordinator') || roles.includes('crew lead');
  const remove = useAction('DELETE /api/shifts/:id', () => say(phrase('event.removed')));
  const change = useAction('PUT /api/shifts/:id');
  const shifts = crew.data?.shifts;
  const byId = useMemo(() => new Map((shifts ?? []).map((s) => [s.id, s])), [shifts]);
  const by: LaneBy = address.by === 'place' ? 'place' : 'role';
  const zoom: Zoom = zooms.find((z) => String(z) === address.zoom) ?? null;
  const days = daysToShow(shifts ?? []);
  // Of several days that of the event, where nothing else was chosen: what is set up the evening before would leave it narrow.
  const own = page.plan.startsLocal?.slice(0, 10) ?? '';
  const chosen = days.some((d) => d.value === address.day) ? address.day : '';
  const day =
    chosen || (address.day === 'all' || days.length < 2 ? '' : days.some((d) => d.value === own) ? own : '');
  const seen = useMemo(
    () =>
      (shifts ?? []).filter(
        (s) =>
          (!day || s.startsLocal.startsWith(day)) &&
          isShown(
            s,
            s.assignments.map((a) => a.name),
            { words: address.words, gaps: address.gaps === 'yes' },
          ),
      ),
    [shifts, day, address.words, address.gaps],
  );
  const shown = shownId === null ? undefined : byId.get(shownId);
  const of = open && 'id' in open ? byId.get(open.id) : undefined;

  /** Puts a shift elsewhere: at once where nobody is on it, with a way back; else it is asked. */
  const move = (shift: CrewShift, to: Put) => {
    if (shift.assignments.length > 0) {
      setOpen({ what: 'move', id: shift.id, to });
      return;
    }
    change.mutate(
      { params: { id: shift.id }, body: withChange(shift, to) },
      {
        onSuccess: ({ version }) =>
          say(phrase('crew.isMoved'), {
            label: phrase('common.undo'),
            run: () =>
              change.mutate({ params: { id: shift.id }, body: { ...withChange(shift, {}), version } }),
          }),
      },
    );
  };
  const removeEmpty = (shift: CrewShift) => {
    if (shift.assignments.length > 0) {
      say(phrase('crew.notEmpty'));
      return;
    }
    setShownId(null);
    remove.mutate({ params: { id: shift.id } });
  };
  return (
    <Loaded of={crew}>
      {({ shifts: all, wished, filled, asked, swaps, hours, now: at, lateMinutes }) => (
        <>
          <div className="spread">
            <h2 className="num">{phrase('event.ofPlacesFilled', { filled, wished })}</h2>
            <div className="acts">
              {(all.length > 0 || register) && (
                <Menu
                  trigger={<Button>{phrase('crew.more')}</Button>}
                  entries={[
                    ...(may && all.length > 0
                      ? [{ label: phrase('crew.many'), run: () => setOpen({ what: 'many' }) }]
                      : []),
                    ...(may && filled > 0
                      ? [{ label: phrase('crew.mail'), run: () => setOpen({ what: 'mail' }) }]
                      : []),
                    ...(page.publicUrl && all.some((s) => s.publicSignUp)
                      ? [
                          {
                            label: phrase('event.publicSignUp'),
                            run: () => window.open(`/e/${page.plan.slug}/shifts`, '_blank', 'noreferrer'),
                          },
                        ]
                      : []),
                    ...(register
                      ? [{ label: phrase('crew.rolesAndSkills'), run: () => setOpen({ what: 'roles' }) }]
                      : []),
                    ...(all.length
                      ? [{ label: phrase('crew.figures'), run: () => setOpen({ what: 'figures' }) }]
                      : []),
                    ...(all.length ? printing(page.id) : []),
                  ]}
                />
              )}
              {may && (
                <>
                  {call ? (
                    <ButtonLink to={`/volunteers/${call.id}`}>
                      {call.counts.new > 0
                        ? phrase('applying.applicationsNew', { n: call.counts.new })
                        : phrase('applying.applications')}
                    </ButtonLink>
                  ) : (
                    <Button onClick={() => setOpen({ what: 'call' })}>{phrase('applying.add')}</Button>
                  )}
                  {swaps > 0 && (
                    <Button onClick={() => setOpen({ what: 'swaps' })}>
                      {phrase('crew.swapsWished', { n: swaps })}
                    </Button>
                  )}
                  {filled < wished && (
                    <Button onClick={() => setOpen({ what: 'fill' })}>{phrase('crew.fill')}</Button>
                  )}
                  {all.length === 0 && (
                    <Button disabled={!page.plan.startsLocal} onClick={() => setOpen({ what: 'many' })}>
                      {phrase('crew.many')}
                    </Button>
                  )}
                  <Button
                    look="main"
                    data-new
                    title={phrase('event.addAShiftN')}
                    disabled={!page.plan.startsLocal}
                    onClick={() => setOpen({ what: 'add' })}
                  >
                    {phrase('event.addAShift')}
                  </Button>
                </>
              )}
            </div>
          </div>
          <p className="soft num">
            {phrase('event.shiftsHoursInAll', { shifts: all.length, hours })}
            {!page.plan.startsLocal && '. '}
            {!page.plan.startsLocal && phrase('event.shiftsNeedADate')}
          </p>
          <Problems of={remove.problem ?? change.problem} />
          <OnTheDay
            shifts={all}
            now={at}
            lateMinutes={lateMinutes}
            may={may}
            assign={(id) => setOpen({ what: 'assign', id })}
          />
          {asked > 0 && (
            <chakra.div className="need" margin="0 0 8px">
              {phrase('crew.peopleAsk', { n: asked })}{' '}
              {all
                .filter((s) => s.assignments.some((a) => a.state === 'proposed'))
                .map((s) => (
                  <Button
                    key={s.id}
                    look="link"
                    color="verdigris"
                    marginRight="10px"
                    onClick={() => setShownId(s.id)}
                  >
                    {[s.role, s.place].filter(Boolean).join(', ')}
                  </Button>
                ))}
            </chakra.div>
          )}
          {all.length === 0 ? (
            <Empty>{phrase('event.nobodyIsNeededYet')}</Empty>
          ) : (
            <section aria-label={phrase('crew.board')}>
              <chakra.div
                display="flex"
                flexWrap="wrap"
                gap="8px 12px"
                alignItems="center"
                margin="4px 0 8px"
              >
                <InlineChoice
                  label={phrase('crew.lanes')}
                  value={by}
                  set={(to) => put({ by: to })}
                  choices={[
                    { value: 'role', label: phrase('crew.byRole') },
                    { value: 'place', label: phrase('crew.byPlace') },
                  ]}
                />
                <InlineChoice
                  label={phrase('crew.flow')}
                  value={address.flow === 'down' ? 'down' : 'across'}
                  set={(to) => put({ flow: to })}
                  choices={[
                    { value: 'across', label: phrase('crew.flowAcross') },
                    { value: 'down', label: phrase('crew.flowDown') },
                  ]}
                />
                {days.length > 1 && (
                  <InlineChoice
                    label={phrase('crew.day')}
                    value={day || 'all'}
                    set={(to) => put({ day: to })}
                    choices={[{ value: 'all', label: phrase('crew.allDays') }, ...days]}
                  />
                )}
                <InlineChoice
                  label={phrase('crew.zoom')}
                  value={address.zoom}
                  set={(to) => put({ zoom: to })}
                  choices={zooms
                    .filter((z) => z !== null)
                    .map((z) => ({ value: String(z), label: phrase('crew.hoursAcross', { n: z }) }))}
                  empty={phrase('crew.allAcross')}
                />
                <InlineText
                  type="search"
                  label={phrase('crew.find')}
                  placeholder={phrase('crew.find')}
                  value={address.words}
                  set={(to) => put({ words: to }, { typed: true })}
                />
                <Tick checked={address.gaps === 'yes'} set={(to) => put({ gaps: to ? 'yes' : '' })}>
                  {phrase('crew.gapsOnly')}
                </Tick>
              </chakra.div>
              {seen.length === 0 ? (
                <Empty>{phrase('crew.noneLikeThat')}</Empty>
              ) : (
                <Board
                  shifts={seen}
                  by={by}
                  flow={address.flow === 'down' ? 'down' : 'across'}
                  zoom={zoom}
                  now={wallOf(now, page.plan.zone)}
                  change={may ? move : null}
                  open={(s) => setShownId(s.id)}
                  copy={(s) => setOpen({ what: 'copy', id: s.id })}
                  cut={(s) => setOpen({ what: 'cut', id: s.id })}
                  remove={removeEmpty}
                />
              )}
            </section>
          )}
          {shown && (
            <ShiftPanel
              shift={shown}
              zone={page.plan.zone}
              may={may}
              close={() => setShownId(null)}
              acts={{
                assign: () => setOpen({ what: 'assign', id: shown.id }),
                stepIn: () => setOpen({ what: 'step in', id: shown.id }),
                change: () => setOpen({ what: 'change', id: shown.id }),
                copy: () => setOpen({ what: 'copy', id: shown.id }),
                cut: () => setOpen({ what: 'cut', id: shown.id }),
                remove: () => removeEmpty(shown),
              }}
            />
          )}
          {open?.what === 'roles' && (
            <SlideOver open close={() => setOpen(null)} label={phrase('crew.rolesAndSkills')}>
              <chakra.div padding="18px 20px">
                <div className="spread">
                  <h2>{phrase('crew.rolesAndSkills')}</h2>
                  <Button look="plain" onClick={() => setOpen(null)}>
                    {phrase('common.close')}
                  </Button>
                </div>
                <Roles />
              </chakra.div>
            </SlideOver>
          )}
          {open?.what === 'fill' && <Filling eventId={page.id} shifts={byId} close={() => setOpen(null)} />}
          {open?.what === 'figures' && (
            <Suspense fallback={null}>
              <Figures eventId={page.id} close={() => setOpen(null)} />
            </Suspense>
          )}
          {open?.what === 'mail' && (
            <WriteToCrew
              eventId={page.id}
              roles={[...new Set(all.map((s) => s.role))].sort()}
              close={() => setOpen(null)}
            />
          )}
          {open?.what === 'swaps' && <Swaps eventId={page.id} close={() => setOpen(null)} />}
          {of && open?.what === 'step in' && <StepIn shift={of} close={() => setOpen(null)} />}
          {open?.what === 'call' && (
            <CallForm
              call={null}
              event={{ id: page.id, title: page.plan.publicTitle, roles: all.map((s) => s.role) }}
              close={() => setOpen(null)}
            />
          )}
          {open?.what === 'add' && <ShiftForm page={page} close={() => setOpen(null)} />}
          {open?.what === 'many' && <ManyShifts page={page} close={() => setOpen(null)} />}
          {of && open?.what === 'change' && <ShiftForm page={page} shift={of} close={() => setOpen(null)} />}
          {of && open?.what === 'copy' && <ShiftForm page={page} like={of} close={() => setOpen(null)} />}
          {of && open?.what === 'cut' && (
            <CutShift shift={of} zone={page.plan.zone} close={() => setOpen(null)} />
          )}
          {of && open?.what === 'assign' && <Assign shift={of} close={() => setOpen(null)} />}
          {of && open?.what === 'move' && (
            <MoveShift
              shift={of}
              to={open.to}
              close={() => setOpen(null)}
              done={() => say(phrase('crew.isMoved'))}
            />
          )}
        </>
      )}
    </Loaded>
  );
}
