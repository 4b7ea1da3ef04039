import { chakra } from '@chakra-ui/react';
import { useDeferredValue, useEffect, useMemo, useRef, useState } from 'react';
import { useNavigate } from 'react-router';
import type { SeasonEvent } from '#contract/events.ts';
import {
  around,
  broughtIn,
  dateOfDay,
  dayOf,
  drawnOf,
  filledAt,
  lanesOf,
  movedBy,
  panned,
  pixelOf,
  type RibbonView,
  ticksOf,
  zoomed,
} from '#core/season/ribbon.ts';
import { Button } from '#web/kit/Button.tsx';
import { placed } from '#web/kit/placed.ts';
import { useWidth } from '#web/kit/useWidth.ts';
import { phrase, spokenLanguage } from '#web/words/phrase.ts';
import { InlineChoice } from '../kit/Inline.tsx';
import { filledLane, Lane, labelled } from './Lane.tsx';
import { marksOf } from './marks.ts';
import { Pointed } from './Pointed.tsx';
import { ribbonLook } from './ribbonLook.ts';
import type { SeasonPicture } from './seasonAddress.ts';

/** How far one sees, in days, by name. */
const spans = { month: 45, quarter: 110, year: 400, years: 1000 } as const;
type Span = keyof typeof spans;
const spanNames: Record<Span, string> = {
  month: phrase('season.spanMonth'),
  quarter: phrase('season.spanQuarter'),
  year: phrase('season.spanYear'),
  years: phrase('season.spanYears'),
};
const laneBy = { unit: 'unit', venue: 'venue', kind: 'category' } as const;

/**
 * Every event on one line of time, in lanes. The wheel goes nearer and further where the pointer is, dragging goes along; from the
 * keyboard arrows, plus and minus, and t for today.
 */
export function Ribbon({ events, clashes, holidays, address, put, today, now }: SeasonPicture) {
  const navigate = useNavigate();
  const box = useRef<HTMLDivElement>(null);
  const width = useWidth(box);
  const [view, setView] = useState<RibbonView | null>(null);
  const [pointed, setPointed] = useState<SeasonEvent | null>(null);
  // Where there is little room, the names of lanes have little of it.
  const names = width < 500 ? 84 : 128;
  const inner = Math.max(0, width - names);
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
  // What stands where is worked out once; going along moves it as a whole, and rows are filled anew where one comes much nearer.
  const lanes = useMemo(
    () => lanesOf(marksOf(events, clashes, now), ({ e }) => e[laneBy[by]] || null),
    [events, clashes, now, by],
  );
  const byId = useMemo(() => new Map(lanes.flatMap((l) => l.events).map((m) => [m.id, m])), [lanes]);
  const markOf = (target: EventTarget) =>
    byId.get((target as Element).closest<HTMLElement>('[data-event]')?.dataset.event ?? '');
  const wanted = filledAt(shown.perDay);
  const lagging = useDeferredValue(wanted);
  // Until something was moved there is nothing to lag behind.
  const perDay = view ? lagging : wanted;
  const filled = useMemo(() => lanes.map((lane) => filledLane(lane.events, perDay)), [lanes, perDay]);
  const drawn = drawnOf(shown, inner);
  const base = useMemo(() => Math.floor(lanes[0]?.events[0]?.day ?? dayOf(today)), [lanes, today]);
  const first = dateOfDay(shown.from - 40);
  const last = dateOfDay(shown.from + inner / shown.perDay + 1);
  const ticks = ticksOf(shown, inner);
  // The month it begins in, where its own line is out of sight.
  const named = ticks.find((tick) => tick.unit === 'month' || tick.unit === 'year');
  const begun = named && named.at > 90 ? sayTick(dateOfDay(shown.from), 'month', shown.perDay) : null;
  // Names of two lines need as much room as two rows.
  const least = names < 100 ? 2 : 1;
  let top = 38;
  const stacked = (inner ? lanes : []).map((lane, n) => {
    const marks = filled[n]!;
    const height = marks.heightIn(drawn, least);
    const at = top;
    top += height;
    return { name: lane.name, marks, at, height };
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
        css={ribbonLook}
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
        // One listener for however many marks: what it is about is found from what it happened to.
        onPointerOver={(event) => {
          const mark = markOf(event.target);
          if (mark) setPointed(mark.e);
        }}
        onFocus={(event) => {
          const mark = markOf(event.target);
          if (!mark) return;
          setPointed(mark.e);
          // By the keyboard one may come upon what is partly out of sight.
          if (event.target.matches(':focus-visible'))
            move((from) => {
              const left = (mark.day - from.from) * from.perDay;
              const right = left + Math.max(mark.lasts * from.perDay, labelled(from.perDay) ? mark.width : 5);
              return broughtIn(from, { left, right }, inner);
            });
        }}
        onClick={(event) => {
          const to = markOf(event.target)?.to;
          if (!to || event.button !== 0 || event.metaKey || event.ctrlKey || event.shiftKey || event.altKey)
            return;
          event.preventDefault();
          navigate(to);
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
        {stacked.map((lane) => (
          <Lane
            key={lane.name ?? ''}
            {...lane}
            view={shown}
            inner={inner}
            drawn={drawn}
            base={base}
            names={names}
          />
        ))}
      </chakra.div>
      <chakra.p minHeight="46px" paddingTop="6px" fontSize="14px" color="soft" role="status">
        {pointed ? <Pointed event={pointed} clashes={clashes.get(pointed.id) ?? []} events={events} /> : ''}
      </chakra.p>
    </section>
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
