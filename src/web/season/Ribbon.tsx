import { chakra, type SystemStyleObject } from '@chakra-ui/react';
import { type FocusEvent, useEffect, useMemo, useRef, useState } from 'react';
import { Link } from 'react-router';
import type { SeasonEvent } from '#contract/events.ts';
import type { Clash } from '#core/season/clashes.ts';
import type { MissingThing } from '#core/season/missing.ts';
import {
  around,
  broughtIn,
  dateOfDay,
  lanesOf,
  movedBy,
  panned,
  pixelOf,
  type RibbonView,
  rowsOf,
  ticksOf,
  zoomed,
} from '#core/season/ribbon.ts';
import { sayRange } from '#core/time/say.ts';
import { Button } from '#web/kit/Button.tsx';
import { placed } from '#web/kit/placed.ts';
import { phrase, spokenLanguage, term } from '#web/words/phrase.ts';
import { InlineChoice } from '../kit/Inline.tsx';
import { type SeasonPicture, saySeats, stageFor } from './seasonAddress.ts';

const rowHeight = 19;
const laneGap = 10;
/** Rows of a lane, at most; what finds no room is counted at its end. */
const mostRows = 6;
/** Roughly how wide a letter of a label is. */
const letter = 6.4;

const look: SystemStyleObject = {
  position: 'relative',
  // Not “hidden”: that would be scrolled by what is focused in it.
  overflow: 'clip',
  background: 'sheet',
  border: '1px solid',
  borderColor: 'line',
  cursor: 'grab',
  touchAction: 'pan-y',
  userSelect: 'none',
  '&:active': { cursor: 'grabbing' },
  '& .tick': { position: 'absolute', top: 0, bottom: 0, borderLeft: '1px solid', borderColor: 'line' },
  '& .tick span': {
    position: 'absolute',
    left: '4px',
    top: '3px',
    fontSize: '12px',
    color: 'soft',
    whiteSpace: 'nowrap',
    pointerEvents: 'none',
  },
  '& .tick.day span, & .tick.week span': { top: '18px' },
  '& .tick.year': { borderColor: 'rule' },
  '& .free': { position: 'absolute', top: '36px', bottom: 0, background: 'paper' },
  '& .now': { position: 'absolute', top: 0, bottom: 0, borderLeft: '1.5px solid', borderColor: 'verdigris' },
  '& .lane': { position: 'absolute', left: 0, right: 0, borderTop: '1px solid', borderColor: 'line' },
  '& .lane > b': {
    position: 'absolute',
    left: 0,
    top: '3px',
    zIndex: 2,
    paddingLeft: '8px',
    fontSize: '12.5px',
    fontWeight: 600,
    lineHeight: '15px',
    background: 'sheet',
    maxHeight: '32px',
    overflow: 'hidden',
  },
  '& .names': {
    position: 'absolute',
    left: 0,
    top: 0,
    bottom: 0,
    background: 'sheet',
    borderRight: '1px solid',
    borderColor: 'line',
    zIndex: 1,
  },
  '& .mark': {
    position: 'absolute',
    height: '17px',
    fontSize: '12.5px',
    lineHeight: '16px',
    whiteSpace: 'nowrap',
    paddingLeft: '5px',
    borderLeft: '2px solid',
    borderColor: 'verdigris',
    color: 'ink',
  },
  '& .mark.planned': { borderLeftStyle: 'dotted', color: 'soft' },
  '& .mark.over': { borderColor: 'slate', color: 'soft' },
  '& .mark.off': { borderColor: 'madder', color: 'soft', textDecoration: 'line-through' },
  '& .mark i': { fontStyle: 'normal', color: 'ochre' },
  // Two at odds are underlined for as long as they last.
  '& .mark em': {
    position: 'absolute',
    left: '-2px',
    bottom: '-1px',
    borderBottom: '2px solid',
    borderColor: 'madder',
  },
  '& .mark:focus-visible': {
    outline: '2px solid',
    outlineColor: 'verdigris',
    zIndex: 3,
    background: 'sheet',
  },
  '& .more': { position: 'absolute', fontSize: '12px', color: 'soft' },
};

/** How far one sees, in days, by name. */
const spans = { month: 45, quarter: 110, year: 400, years: 1000 } as const;
type Span = keyof typeof spans;
const spanNames: Record<Span, string> = {
  month: phrase('season.spanMonth'),
  quarter: phrase('season.spanQuarter'),
  year: phrase('season.spanYear'),
  years: phrase('season.spanYears'),
};
const missingNames: Record<MissingThing, string> = {
  date: phrase('season.missingDate'),
  place: phrase('season.missingPlace'),
  tickets: phrase('season.missingTickets'),
  clearance: phrase('season.missingClearance'),
  crew: phrase('season.missingCrew'),
};
const clashNames = {
  place: 'season.clashPlace',
  lead: 'season.clashLead',
  audience: 'season.clashAudience',
} as const;
const laneBy = { unit: 'unit', venue: 'venue', kind: 'category' } as const;

/**
 * Every event on one line of time, in lanes. The wheel goes nearer and further where the pointer is, dragging goes along; from the
 * keyboard arrows, plus and minus, and t for today.
 */
export function Ribbon({ events, clashes, holidays, address, put, today, now }: SeasonPicture) {
  const box = useRef<HTMLDivElement>(null);
  const [width, setWidth] = useState(0);
  const [view, setView] = useState<RibbonView | null>(null);
  const [pointed, setPointed] = useState<SeasonEvent | null>(null);
  // Where there is little room, the names of lanes have little of it.
  const names = width < 500 ? 84 : 128;
  const inner = Math.max(0, width - names);
  useEffect(() => {
    const element = box.current;
    if (!element) return;
    const observer = new ResizeObserver(() => setWidth(element.clientWidth));
    observer.observe(element);
    setWidth(element.clientWidth);
    return () => observer.disconnect();
  }, []);
  const shown = view ?? around(today, inner < 500 ? 70 : spans.quarter, inner || 1000);
  const latest = useRef(shown);
  latest.current = shown;
  // Many small moves between two drawings are drawn once.
  const frame = useRef(0);
  const next = useRef<RibbonView | null>(null);
  const move = (to: (from: RibbonView) => RibbonView) => {
    next.current = to(next.current ?? latest.current);
    if (frame.current) return;
    frame.current = requestAnimationFrame(() => {
      frame.current = 0;
      setView(next.current);
      next.current = null;
    });
  };
  useEffect(() => () => cancelAnimationFrame(frame.current), []);
  const moving = useRef(move);
  moving.current = move;
  useEffect(() => {
    const element = box.current;
    if (!element) return;
    const wheel = (event: WheelEvent) => {
      event.preventDefault();
      const along = Math.abs(event.deltaX) > Math.abs(event.deltaY) || event.shiftKey;
      const at =
        event.clientX - element.getBoundingClientRect().left - (element.clientWidth < 500 ? 84 : 128);
      moving.current((from) =>
        along
          ? panned(from, event.deltaX || event.deltaY)
          : zoomed(from, Math.exp(-event.deltaY / 400), Math.max(0, at)),
      );
    };
    element.addEventListener('wheel', wheel, { passive: false });
    return () => element.removeEventListener('wheel', wheel);
  }, []);
  const drag = useRef<{ x: number; moved: boolean } | null>(null);
  const by = address.by in laneBy ? (address.by as keyof typeof laneBy) : 'unit';
  // Lanes do not change as one moves along: only what is drawn of them.
  const lanes = useMemo(
    () =>
      lanesOf(
        events.filter((e) => e.startsLocal).sort((a, b) => (a.startsLocal! < b.startsLocal! ? -1 : 1)),
        (e) => e[laneBy[by]] || null,
      ),
    [events, by],
  );
  const first = dateOfDay(shown.from - 40);
  const last = dateOfDay(shown.from + inner / shown.perDay + 1);
  const ticks = ticksOf(shown, inner);
  // The month it begins in, where its own line is out of sight.
  const named = ticks.find((tick) => tick.unit === 'month' || tick.unit === 'year');
  const begun = named && named.at > 90 ? sayTick(dateOfDay(shown.from), 'month', shown.perDay) : null;
  let top = 38;
  const drawn = lanes.map((lane) => {
    const marks = lane.events
      .filter((e) => e.startsLocal! >= first && e.startsLocal! <= `${last}T23:59`)
      .map((e) => {
        const left = pixelOf(shown, e.startsLocal!);
        const lasts = e.endsLocal ? pixelOf(shown, e.endsLocal) - left : 0;
        const label = labelOf(e, now);
        // Labels are said where a fortnight has room for one; further away only that there is something.
        const long = shown.perDay >= 1.6;
        return { e, left, lasts, label, right: left + (long ? label.text.length * letter + 10 : 5), long };
      })
      .filter((m) => m.right > 0 || m.left + m.lasts > 0);
    const rows = rowsOf(marks, mostRows, 8);
    // Names of two lines need as much room as two rows.
    const least = names < 100 ? 2 : 1;
    const height = Math.max(least, ...rows.map((r) => (r ?? 0) + 1)) * rowHeight + laneGap;
    const at = top;
    top += height;
    const hidden = rows.filter((r) => r === null).length;
    return { lane, marks, rows, at, height, hidden };
  });
  return (
    <section aria-label={phrase('season.ribbon')}>
      <chakra.div display="flex" flexWrap="wrap" gap="8px 12px" alignItems="center" margin="10px 0 8px">
        <InlineChoice
          label={phrase('season.lanes')}
          value={by}
          set={(to) => put({ by: to })}
          choices={[
            { value: 'unit', label: phrase('season.byUnit') },
            { value: 'venue', label: phrase('season.byVenue') },
            { value: 'kind', label: phrase('season.byKind') },
          ]}
        />
        {(Object.keys(spans) as Span[]).map((span) => (
          <Button key={span} look="plain" onClick={() => move(() => around(today, spans[span], inner))}>
            {spanNames[span]}
          </Button>
        ))}
        <Button
          look="plain"
          onClick={() => move((from) => movedBy('t', from, inner, today) ?? from)}
          title={phrase('season.todayT')}
        >
          {phrase('season.today')}
        </Button>
        <chakra.span color="soft" fontSize="13.5px" hideBelow="md">
          {phrase('season.howToMove')}
        </chakra.span>
      </chakra.div>
      {/* The keyboard moves what is seen; every event in it is a link of its own. */}
      <chakra.div
        ref={box}
        css={look}
        role="group"
        tabIndex={0}
        aria-label={phrase('season.ribbonKeys')}
        style={placed({ height: Math.max(top, 120) })}
        onKeyDown={(event) => {
          if (event.ctrlKey || event.metaKey || event.altKey) return;
          if (!movedBy(event.key, shown, inner, today)) return;
          event.preventDefault();
          event.stopPropagation();
          move((from) => movedBy(event.key, from, inner, today) ?? from);
        }}
        onPointerDown={(event) => {
          if (event.button === 0) drag.current = { x: event.clientX, moved: false };
        }}
        onPointerMove={(event) => {
          const from = drag.current;
          if (!from) return;
          const by = from.x - event.clientX;
          if (!from.moved && Math.abs(by) < 4) return;
          if (!from.moved) event.currentTarget.setPointerCapture(event.pointerId);
          drag.current = { x: event.clientX, moved: true };
          move((v) => panned(v, by));
        }}
        onPointerUp={() => {
          drag.current = null;
        }}
        onPointerCancel={() => {
          drag.current = null;
        }}
      >
        <chakra.div
          position="absolute"
          right="0"
          top="0"
          bottom="0"
          overflow="clip"
          style={placed({ left: names })}
        >
          {shown.perDay >= 3 &&
            holidays
              .filter((day) => day >= first && day <= last)
              .map((day) => (
                <span
                  key={day}
                  className="free"
                  title={phrase('season.holiday')}
                  style={placed({ left: pixelOf(shown, day), width: shown.perDay })}
                />
              ))}
          {ticks.map((tick) => (
            <span key={tick.date} className={`tick ${tick.unit}`} style={placed({ left: tick.at })}>
              <span>{sayTick(tick.date, tick.unit, shown.perDay)}</span>
            </span>
          ))}
          {begun !== null && (
            <span className="tick month" style={placed({ left: 0 })}>
              <span>{begun}</span>
            </span>
          )}
          <span className="now" style={placed({ left: pixelOf(shown, today) })} />
        </chakra.div>
        <span className="names" style={placed({ width: names })} />
        {drawn.map(({ lane, marks, rows, at, height, hidden }) => (
          <div key={lane.name ?? ''} className="lane" style={placed({ top: at, height })}>
            <b style={placed({ width: names - 2 })}>{lane.name ?? phrase('season.noLane')}</b>
            <chakra.div
              position="absolute"
              right="0"
              top="0"
              bottom="0"
              overflow="clip"
              style={placed({ left: names })}
            >
              {marks.map((m, n) => {
                const row = rows[n];
                if (row === null || row === undefined) return null;
                const to = stageFor(m.e, now);
                const className = `mark ${standingOf(m.e, now)}`;
                const style = placed({ left: m.left, top: 5 + row * rowHeight });
                const words = (
                  <>
                    {m.long && (
                      <>
                        {m.label.title} <span className="num">{m.label.seats}</span>
                        {m.label.missing && <i> {m.label.missing}</i>}
                      </>
                    )}
                    {clashes.has(m.e.id) && <em style={placed({ width: Math.max(10, m.lasts) })} />}
                  </>
                );
                const common = {
                  className,
                  style,
                  'aria-label': `${m.label.text}, ${sayWhen(m.e)}`,
                  onPointerEnter: () => setPointed(m.e),
                  onFocus: (event: FocusEvent) => {
                    setPointed(m.e);
                    // By the keyboard one may come upon what is partly out of sight.
                    if (event.currentTarget.matches(':focus-visible'))
                      move((from) => broughtIn(from, m, inner));
                  },
                };
                return to ? (
                  <Link
                    key={m.e.id}
                    to={to}
                    {...common}
                    draggable={false}
                    onClick={(event) => {
                      if (drag.current?.moved) event.preventDefault();
                    }}
                  >
                    {words}
                  </Link>
                ) : (
                  <span key={m.e.id} {...common} role="note">
                    {words}
                  </span>
                );
              })}
              {hidden > 0 && (
                <span className="more" style={placed({ right: 6, top: height - 18 })}>
                  {phrase('season.moreHere', { n: hidden })}
                </span>
              )}
            </chakra.div>
          </div>
        ))}
      </chakra.div>
      <chakra.p minHeight="46px" paddingTop="6px" fontSize="14px" color="soft" role="status">
        {pointed ? <Pointed event={pointed} clashes={clashes.get(pointed.id) ?? []} events={events} /> : ''}
      </chakra.p>
    </section>
  );
}

const sayWhen = (e: SeasonEvent): string => (e.startsLocal ? sayRange(e.startsLocal, e.endsLocal) : '');

/** What an event is called on the ribbon, with its seats, and how much it lacks. */
function labelOf(e: SeasonEvent, now: string) {
  const coming = !e.startsAt || e.startsAt >= now;
  const seats = e.state === 'open' || (e.state === 'closed' && coming) ? saySeats(e) : '';
  const missing = e.missing.length ? phrase('season.lacks', { n: e.missing.length }) : '';
  const state = ['draft', 'in clearance', 'cleared'].includes(e.state) ? term(e.state) : '';
  return {
    title: state ? `${e.title}, ${state}` : e.title,
    seats,
    missing,
    text: [state ? `${e.title}, ${state}` : e.title, seats, missing].filter(Boolean).join(' '),
  };
}

function standingOf(e: SeasonEvent, now: string): string {
  if (e.state === 'called off') return 'off';
  if (['draft', 'in clearance', 'cleared'].includes(e.state)) return 'planned';
  return e.state === 'wrapped' || (e.startsAt !== null && e.startsAt < now) ? 'over' : '';
}

/** What somebody points at, in full: when, where, how it stands, what it lacks and what is at odds with it. */
function Pointed({
  event: e,
  clashes,
  events,
}: {
  event: SeasonEvent;
  clashes: readonly Clash[];
  events: readonly SeasonEvent[];
}) {
  const titleOf = (id: string) => events.find((other) => other.id === id)?.title ?? '';
  return (
    <>
      <chakra.b color="ink" fontWeight={600}>
        {e.title}
      </chakra.b>{' '}
      {[sayWhen(e), e.venue, term(e.state), saySeats(e) && phrase('season.seats', { seats: saySeats(e) })]
        .filter(Boolean)
        .join(' · ')}
      {e.missing.length > 0 && (
        <chakra.span color="ochre">
          {' · '}
          {phrase('season.lacksWhat', {
            what: e.missing.map((m) => missingNames[m]).join(', '),
          })}
        </chakra.span>
      )}
      {clashes.length > 0 && (
        <chakra.span color="madder">
          {' · '}
          {clashes.map((c) => phrase(clashNames[c.kind], { title: titleOf(c.other) })).join('; ')}
        </chakra.span>
      )}
    </>
  );
}

const said = (date: string, options: Intl.DateTimeFormatOptions): string =>
  new Intl.DateTimeFormat(spokenLanguage() === 'fr' ? 'fr-CA' : 'en-GB', {
    timeZone: 'UTC',
    ...options,
  }).format(new Date(`${date}T00:00Z`));

function sayTick(date: string, unit: 'year' | 'month' | 'week' | 'day', perDay: number): string {
  if (unit === 'year') return said(date, { month: perDay < 1.5 ? undefined : 'short', year: 'numeric' });
  if (unit === 'month') return said(date, { month: perDay < 3 ? 'short' : 'long' });
  return String(Number(date.slice(8)));
}
