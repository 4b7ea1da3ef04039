import { chakra } from '@chakra-ui/react';
import { memo, useMemo, useRef, useState } from 'react';
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
import { boardLook, headHeight, laneGap, rowHeight } from './boardLook.ts';

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
 * Every shift where it stands: lanes by role or place, those that lack most first, time across. Dragging moves one, its ends stretch
 * it. From the keyboard: Tab goes from shift to shift, arrows move one, with Shift they stretch it, Enter puts it there or opens it,
 * Escape leaves it where it was, c copies, x cuts, Delete removes.
 */
export function Board({
  shifts,
  by,
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
  const names = width < 500 ? 92 : 138;
  const inner = Math.max(200, width - names);
  const hours = span ? (span.to - span.from) / 60 : 1;
  const anHour = Math.max(inner / hours, zoom === null ? 6 : inner / zoom);
  const pixel = (minute: number) => ((minute - (span?.from ?? 0)) / 60) * anHour;
  let top = headHeight;
  const stacked = lanes.map((lane) => {
    const height = lane.rows * rowHeight + laneGap;
    const at = top;
    top += height;
    return { lane, at, height };
  });
  const laneAt = (y: number) => stacked.find(({ at, height }) => y >= at && y < at + height)?.lane.name;
  const drag = useRef<{ x: number; moving: Moving; begun: boolean } | null>(null);
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
        role="group"
        tabIndex={-1}
        aria-label={phrase('crew.boardKeys')}
        onKeyDown={(event) => {
          const shift = shiftOf(event.target);
          if (!shift || event.ctrlKey || event.metaKey || event.altKey) return;
          const lane = by === 'role' ? shift.role : shift.place;
          const held = moving?.shift.id === shift.id ? moving : null;
          const step = { ArrowLeft: -snap, ArrowRight: snap }[event.key];
          if (step && change) {
            const kind = event.shiftKey ? 'end' : 'move';
            setMoving({
              shift,
              kind: held && held.kind !== kind ? held.kind : kind,
              by: (held?.by ?? 0) + step,
              lane: held?.lane ?? lane,
            });
          } else if (event.key === 'Enter') held ? put(held) : open(shift);
          else if (event.key === 'Escape' && held) setMoving(null);
          else if (event.key === 'c' && change) copy(shift);
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
          if (!shift || event.button !== 0 || !change || event.pointerType === 'touch') return;
          const edge = (event.target as HTMLElement).dataset.edge as 'start' | 'end' | undefined;
          drag.current = {
            x: event.clientX,
            begun: false,
            moving: { shift, kind: edge ?? 'move', by: 0, lane: by === 'role' ? shift.role : shift.place },
          };
        }}
        onPointerMove={(event) => {
          const from = drag.current;
          if (!from) return;
          const across = event.clientX - from.x;
          const box = event.currentTarget.getBoundingClientRect();
          const lane = laneAt(event.clientY - box.top) ?? from.moving.lane;
          if (!from.begun && Math.abs(across) < 4 && lane === from.moving.lane) return;
          if (!from.begun) event.currentTarget.setPointerCapture(event.pointerId);
          const next = { ...from.moving, by: snapped((across / anHour) * 60), lane };
          drag.current = { ...from, begun: true, moving: next };
          setMoving(next);
        }}
        onPointerUp={() => {
          const from = drag.current;
          drag.current = null;
          if (from?.begun) put(from.moving);
        }}
        onPointerCancel={() => {
          drag.current = null;
          setMoving(null);
        }}
        onClick={(event) => {
          const shift = shiftOf(event.target);
          if (shift && !moving) open(shift);
        }}
      >
        <div className="plane" style={placed({ width: names + hours * anHour, height: top })}>
          {ticksOf(span, every).map((minute) => {
            const wall = new Date(minute * 60_000).toISOString().slice(0, 16);
            const midnight = wall.endsWith('T00:00');
            return (
              <span
                key={minute}
                className={midnight ? 'tick day' : 'tick'}
                style={placed({ left: names + pixel(minute) })}
              >
                <span className="num">{midnight ? sayShortDate(wall) : sayTime(wall)}</span>
              </span>
            );
          })}
          {minuteOf(now) > span.from && minuteOf(now) < span.to && (
            <span className="now" style={placed({ left: names + pixel(minuteOf(now)) })} />
          )}
          {stacked.map(({ lane, at, height }) => (
            <BoardLane
              key={lane.name}
              lane={lane}
              at={at}
              height={height}
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
  height,
  names,
  from,
  anHour,
  by,
  now,
  moving,
}: {
  lane: Lane<CrewShift>;
  at: number;
  height: number;
  names: number;
  from: number;
  anHour: number;
  by: LaneBy;
  now: string;
  moving: Moving | null;
}) {
  return (
    <div className="lane" style={placed({ top: at, height })}>
      <span className="laneName" style={placed({ width: names })}>
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
            left={names + ((minuteOf(startsLocal) - from) / 60) * anHour}
            width={((minuteOf(endsLocal) - minuteOf(startsLocal)) / 60) * anHour}
            top={5 + row * rowHeight}
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
  left,
  width,
  top,
  past,
  moving,
}: {
  shift: CrewShift;
  beside: string;
  left: number;
  width: number;
  top: number;
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
      style={placed({ left, top, width: Math.max(14, width - 2) })}
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
