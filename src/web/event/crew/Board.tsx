import { chakra } from '@chakra-ui/react';
import { memo, useEffect, useMemo, useRef, useState } from 'react';
import type { CrewShift } from '#contract/crew.ts';
import {
  daysOf,
  fillOf,
  type Lane,
  type LaneBy,
  lanesOf,
  moved,
  snap,
  snapped,
  spanOf,
  stretched,
  ticksEvery,
  ticksOf,
} from '#core/crew/board.ts';
import type { ShiftTimes } from '#core/crew/shift.ts';
import { minuteOf } from '#core/time/dates.ts';
import { sayFromTo } from '#core/time/fromTo.ts';
import { sayShortDate, sayTime } from '#core/time/say.ts';
import { placed } from '#web/kit/placed.ts';
import { useWidth } from '#web/kit/useWidth.ts';
import { phrase } from '#web/words/phrase.ts';
import { boardLook, type Flow, flows, laneGap } from './boardLook.ts';

/** What becomes of a shift that was moved or stretched, or put into another lane. */
export interface Put extends ShiftTimes {
  role: string;
  place: string;
}

interface Moving {
  shift: CrewShift;
  kind: 'move' | 'start' | 'end';
  /** Minutes from where it was. */
  by: number;
  /** The lane it is over. */
  lane: string;
}

/** Hours a screen shows beside each other, nearest first; null: all there is. */
export const zooms = [4, 8, 12, 24, 72, null] as const;
export type Zoom = (typeof zooms)[number];

const becomes = ({ shift, kind, by, lane }: Moving, laneBy: LaneBy): Put => ({
  role: shift.role,
  place: shift.place,
  ...(kind === 'move' ? { ...moved(shift, by), [laneBy]: lane } : stretched(shift, kind, by)),
});

/**
 * Every shift where it stands: lanes by role or place, those that lack most first, time across or down. Dragging moves one, its ends
 * stretch it; a finger drags once it has rested on one. From the keyboard: Tab goes from shift to shift, arrows move one along time,
 * with Shift they stretch it, those across time put it into another lane; Enter puts it there or opens it, Escape leaves it where it
 * was, c copies, x cuts, Delete removes.
 */
export function Board({
  shifts,
  by,
  flow,
  zoom,
  now,
  change,
  open,
  copy,
  cut,
  remove,
}: {
  shifts: readonly CrewShift[];
  by: LaneBy;
  flow: Flow;
  zoom: Zoom;
  /** The wall time it is where the event is. */
  now: string;
  /** Null where whoever looks may not change anything. */
  change: ((shift: CrewShift, to: Put) => void) | null;
  open: (shift: CrewShift) => void;
  copy: (shift: CrewShift) => void;
  cut: (shift: CrewShift) => void;
  remove: (shift: CrewShift) => void;
}) {
  const box = useRef<HTMLDivElement>(null);
  const width = useWidth(box);
  const [moving, setMoving] = useState<Moving | null>(null);
  const lanes = useMemo(() => lanesOf(shifts, by), [shifts, by]);
  const span = useMemo(() => spanOf(shifts), [shifts]);
  const byId = useMemo(() => new Map(shifts.map((s) => [s.id, s])), [shifts]);
  const down = flow === 'down';
  const { row, head, screen } = flows[flow];
  // How much the names of the lanes take along time.
  const names = down ? flows.down.names : width < 500 ? 92 : flows.across.names;
  const inner = Math.max(200, (screen ?? width) - names);
  const hours = span ? (span.to - span.from) / 60 : 1;
  const anHour = Math.max(
    down ? Math.max(24, inner / hours) : inner / hours,
    zoom === null ? 6 : inner / zoom,
  );
  const pixel = (minute: number) => ((minute - (span?.from ?? 0)) / 60) * anHour;
  let edge = head;
  const stacked = lanes.map((lane) => {
    const size = lane.rows * row + laneGap;
    const at = edge;
    edge += size;
    return { lane, at, size };
  });
  const laneAt = (at: number) => stacked.find((l) => at >= l.at && at < l.at + l.size)?.lane.name;
  /** The lane so many further on, where there is one. */
  const laneBeside = (name: string, by: number) =>
    lanes[lanes.findIndex((l) => l.name === name) + by]?.name ?? name;
  const drag = useRef<{ at: number; moving: Moving; begun: boolean } | null>(null);
  const resting = useRef<ReturnType<typeof setTimeout> | undefined>(undefined);
  // While a finger drags a shift the page does not scroll under it; said before the browser begins to.
  useEffect(() => {
    const element = box.current;
    const hold = (event: TouchEvent) => {
      if (drag.current) event.preventDefault();
    };
    element?.addEventListener('touchmove', hold, { passive: false });
    return () => element?.removeEventListener('touchmove', hold);
  }, []);
  const shiftOf = (target: EventTarget) =>
    byId.get((target as Element).closest<HTMLElement>('[data-shift]')?.dataset.shift ?? '');
  const put = (of: Moving) => {
    setMoving(null);
    const to = becomes(of, by);
    const same = (['role', 'place', 'startsLocal', 'endsLocal'] as const).every((f) => of.shift[f] === to[f]);
    if (!same) change?.(of.shift, to);
  };
  if (!span) return null;
  const every = ticksEvery(anHour);
  return (
    <>
      <chakra.div
        ref={box}
        css={boardLook}
        data-flow={flow}
        role="group"
        tabIndex={-1}
        aria-label={phrase('crew.boardKeys')}
        onKeyDown={(event) => {
          const shift = shiftOf(event.target);
          if (!shift || event.ctrlKey || event.metaKey || event.altKey) return;
          const lane = by === 'role' ? shift.role : shift.place;
          const held = moving?.shift.id === shift.id ? moving : null;
          const arrows = { ArrowLeft: -1, ArrowRight: 1, ArrowUp: -1, ArrowDown: 1 } as const;
          const arrow = arrows[event.key as keyof typeof arrows];
          const along = (event.key === 'ArrowUp' || event.key === 'ArrowDown') === down;
          const step = arrow && along && arrow * snap;
          if (arrow && !along && change)
            setMoving({
              shift,
              kind: 'move',
              by: held?.kind === 'move' ? held.by : 0,
              lane: laneBeside(held?.lane ?? lane, arrow),
            });
          else if (step && change) {
            const kind = event.shiftKey ? 'end' : 'move';
            setMoving({
              shift,
              kind: held && held.kind !== kind ? held.kind : kind,
              by: (held?.by ?? 0) + step,
              lane: held?.lane ?? lane,
            });
          } else if (event.key === 'Enter') held ? put(held) : open(shift);
          else if (event.key === 'Escape' && held) {
            drag.current = null;
            setMoving(null);
          } else if (event.key === 'c' && change) copy(shift);
          else if (event.key === 'x' && change) cut(shift);
          else if (event.key === 'Delete' && change) remove(shift);
          else return;
          event.preventDefault();
          event.stopPropagation();
        }}
        onBlur={() => {
          if (!drag.current) setMoving(null);
        }}
        // One listener for however many shifts: which one it is about is found from what it happened to.
        onPointerDown={(event) => {
          const shift = shiftOf(event.target);
          if (!shift || event.button !== 0 || !change) return;
          const edge = (event.target as HTMLElement).dataset.edge as 'start' | 'end' | undefined;
          const from = {
            at: down ? event.clientY : event.clientX,
            begun: false,
            moving: {
              shift,
              kind: edge ?? ('move' as const),
              by: 0,
              lane: by === 'role' ? shift.role : shift.place,
            },
          };
          if (event.pointerType !== 'touch') {
            drag.current = from;
            return;
          }
          // A finger scrolls, unless it rests on a shift first.
          clearTimeout(resting.current);
          resting.current = setTimeout(() => {
            drag.current = { ...from, begun: true };
            setMoving(from.moving);
          }, restMs);
        }}
        onPointerMove={(event) => {
          const from = drag.current;
          if (!from) {
            if (event.pointerType === 'touch' && Math.abs(event.movementX) + Math.abs(event.movementY) > 2)
              clearTimeout(resting.current);
            return;
          }
          const along = (down ? event.clientY : event.clientX) - from.at;
          const { left, top } = event.currentTarget.getBoundingClientRect();
          const beside = down ? event.clientX - left + event.currentTarget.scrollLeft : event.clientY - top;
          const lane = laneAt(beside) ?? from.moving.lane;
          if (!from.begun && Math.abs(along) < 4 && lane === from.moving.lane) return;
          if (!from.begun) event.currentTarget.setPointerCapture(event.pointerId);
          const next = { ...from.moving, by: snapped((along / anHour) * 60), lane };
          drag.current = { ...from, begun: true, moving: next };
          setMoving(next);
        }}
        onPointerUp={() => {
          clearTimeout(resting.current);
          const from = drag.current;
          drag.current = null;
          if (from?.begun) put(from.moving);
        }}
        onContextMenu={(event) => {
          // What rests long on a touchscreen asks for a menu.
          if (drag.current) event.preventDefault();
        }}
        onPointerCancel={() => {
          clearTimeout(resting.current);
          drag.current = null;
          setMoving(null);
        }}
        onClick={(event) => {
          const shift = shiftOf(event.target);
          if (shift && !moving) open(shift);
        }}
      >
        <div className="plane" style={placed(planeOf(flow, names + hours * anHour, edge))}>
          {ticksOf(span, every).map((minute) => {
            const wall = new Date(minute * 60_000).toISOString().slice(0, 16);
            const midnight = wall.endsWith('T00:00');
            return (
              <span
                key={minute}
                className={midnight ? 'tick day' : 'tick'}
                style={placed(along(flow, names + pixel(minute)))}
              >
                <span className="num">{midnight ? sayShortDate(wall) : sayTime(wall)}</span>
              </span>
            );
          })}
          {minuteOf(now) > span.from && minuteOf(now) < span.to && (
            <span className="now" style={placed(along(flow, names + pixel(minuteOf(now))))} />
          )}
          {stacked.map(({ lane, at, size }) => (
            <BoardLane
              key={lane.name}
              lane={lane}
              at={at}
              size={size}
              flow={flow}
              names={names}
              from={span.from}
              anHour={anHour}
              by={by}
              now={now}
              moving={moving}
            />
          ))}
        </div>
      </chakra.div>
      <chakra.p
        role="status"
        position="sticky"
        bottom="0"
        background={moving ? 'sheet' : 'transparent'}
        fontSize="small"
        minHeight="20px"
        margin="4px 0 0"
      >
        {moving && sayPut(moving, by)}
      </chakra.p>
    </>
  );
}

/** How long a finger rests on a shift before it drags it, in milliseconds. */
const restMs = 350;

/** Where something stands on time. */
const along = (flow: Flow, at: number) => (flow === 'down' ? { top: at } : { left: at });
const planeOf = (flow: Flow, length: number, across: number) =>
  flow === 'down' ? { width: across, height: length } : { width: length, height: across };
const laneOf = (flow: Flow, at: number, size: number) =>
  flow === 'down' ? { left: at, width: size } : { top: at, height: size };
function barOf(flow: Flow, at: number, length: number, row: number) {
  const long = Math.max(14, length - 2);
  const beside = laneGap / 2 + row * flows[flow].row;
  return flow === 'down'
    ? { top: at, left: beside, height: long, width: flows.down.bar }
    : { left: at, top: beside, width: long, height: flows.across.bar };
}

/** Where something would be put, as it is moved. */
function sayPut(moving: Moving, by: LaneBy): string {
  const to = becomes(moving, by);
  return phrase('crew.wouldBe', {
    what: [to.role, to.place].filter(Boolean).join(', '),
    when: `${sayShortDate(to.startsLocal)} ${sayFromTo(to)}`,
  });
}

function BoardLane({
  lane,
  at,
  size,
  flow,
  names,
  from,
  anHour,
  by,
  now,
  moving,
}: {
  lane: Lane<CrewShift>;
  at: number;
  size: number;
  flow: Flow;
  names: number;
  from: number;
  anHour: number;
  by: LaneBy;
  now: string;
  moving: Moving | null;
}) {
  return (
    <div className="lane" style={placed(laneOf(flow, at, size))}>
      <span className="laneName" style={placed(flow === 'down' ? { height: names } : { width: names })}>
        <b>{lane.name || phrase('crew.noPlace')}</b>
        {lane.lacking > 0 ? (
          <chakra.span color="ochre">{phrase('crew.lacks', { n: lane.lacking })}</chakra.span>
        ) : (
          lane.open > 0 && (
            <chakra.span color="soft">{phrase('crew.openPlaces', { n: lane.open })}</chakra.span>
          )
        )}
      </span>
      {lane.placed.map(({ shift, row }) => {
        const own = moving?.shift.id === shift.id ? moving : null;
        const { startsLocal, endsLocal } = own ? becomes(own, by) : shift;
        return (
          <BoardBar
            key={shift.id}
            shift={shift}
            beside={by === 'role' ? shift.place : shift.role}
            flow={flow}
            at={names + ((minuteOf(startsLocal) - from) / 60) * anHour}
            length={((minuteOf(endsLocal) - minuteOf(startsLocal)) / 60) * anHour}
            row={row}
            past={shift.endsLocal <= now}
            moving={own !== null}
          />
        );
      })}
    </div>
  );
}

/** Not drawn anew while another is moved. */
const BoardBar = memo(function BoardBar({
  shift: s,
  beside,
  flow,
  at,
  length,
  row,
  past,
  moving,
}: {
  shift: CrewShift;
  beside: string;
  flow: Flow;
  /** Where it begins and how long it is along time, in pixels; and which row of its lane it has. */
  at: number;
  length: number;
  row: number;
  past: boolean;
  moving: boolean;
}) {
  const fill = fillOf(s);
  const on = s.assignments.filter((a) => a.state !== 'proposed');
  const asked = s.assignments.length - on.length;
  const what = [s.name, beside].filter(Boolean).join(', ');
  const whom = [
    ...on.map((a) => a.name.split(' ')[0]),
    ...(asked ? [phrase('crew.askFor', { n: asked })] : []),
    ...(s.asking ? [phrase('crew.askedNow', { n: s.asking })] : []),
  ].join(', ');
  return (
    <button
      type="button"
      className={`shift ${fill}${past ? ' past' : ''}${moving ? ' moving' : ''}`}
      data-shift={s.id}
      aria-label={phrase('crew.barSays', {
        role: [s.name, s.role, s.place].filter(Boolean).join(', '),
        when: `${sayShortDate(s.startsLocal)} ${sayFromTo(s)}`,
        filled: s.filled,
        wished: s.wished,
        lacks: s.least > s.filled ? phrase('crew.lacks', { n: s.least - s.filled }) : '',
      })}
      style={placed(barOf(flow, at, length, row))}
    >
      <span className="what">
        <span className="fill num">
          {s.filled}/{s.wished}
        </span>
        {what}
      </span>
      <span className="whom">{whom}</span>
      <span className="edge start" data-edge="start" />
      <span className="edge end" data-edge="end" />
    </button>
  );
});

/** The days a board can be narrowed to. */
export const daysToShow = (shifts: readonly CrewShift[]): { value: string; label: string }[] =>
  daysOf(shifts).map((day) => ({ value: day, label: sayShortDate(day) }));
