import { chakra } from '@chakra-ui/react';
import { memo } from 'react';
import { type RibbonView, rowsOf } from '#core/season/ribbon.ts';
import { placed } from '#web/kit/placed.ts';
import { phrase } from '#web/words/phrase.ts';
import type { Mark } from './marks.ts';
import { rowHeight } from './ribbonLook.ts';

/** Rows of a lane, at most; what finds no room is counted at its end. */
const mostRows = 6;
const laneGap = 10;
/** Labels are said where a fortnight has room for one; further away only that there is something. */
export const labelled = (perDay: number): boolean => perDay >= 1.6;

/** Days, from one to another. */
interface Days {
  first: number;
  last: number;
}
const isIn = (m: Mark, { first, last }: Days): boolean => m.day <= last && m.day + m.lasts >= first;

/** What stands in a lane, each in its row, for days that are so wide. */
export interface FilledLane {
  placed: readonly { mark: Mark; row: number }[];
  /** What found no row. */
  left: readonly Mark[];
  long: boolean;
  /** How high the lane is where these days are drawn, in pixels. */
  heightIn: (drawn: Days, least: number) => number;
}

export function filledLane(marks: readonly Mark[], perDay: number): FilledLane {
  const long = labelled(perDay);
  const rows = rowsOf(
    marks.map((m) => ({ left: m.day * perDay, right: m.day * perDay + (long ? m.width : 5) })),
    mostRows,
    8,
  );
  const those = marks.flatMap((mark, n) => (rows[n] === null ? [] : { mark, row: rows[n]! }));
  return {
    placed: those,
    left: marks.filter((_, n) => rows[n] === null),
    long,
    heightIn: (drawn, least) =>
      Math.max(least, ...those.map(({ mark, row }) => (isIn(mark, drawn) ? row + 1 : 0))) * rowHeight +
      laneGap,
  };
}

/** A lane of the ribbon: its name, and what stands in it. */
export function Lane({
  name,
  marks,
  at,
  height,
  view,
  inner,
  drawn,
  base,
  names,
}: {
  name: string | null;
  marks: FilledLane;
  at: number;
  height: number;
  view: RibbonView;
  inner: number;
  drawn: Days;
  base: number;
  names: number;
}) {
  const seen = { first: view.from, last: view.from + inner / view.perDay };
  const hidden = marks.left.filter((m) => isIn(m, seen)).length;
  return (
    <div className="lane" style={placed({ top: at, height })}>
      <b style={placed({ width: names - 2 })}>{name ?? phrase('season.noLane')}</b>
      <chakra.div
        position="absolute"
        right="0"
        top="0"
        bottom="0"
        overflow="clip"
        style={placed({ left: names })}
      >
        <div
          className="along"
          style={placed({
            '--day': view.perDay,
            transform: `translateX(${Math.round((base - view.from) * view.perDay)}px)`,
          })}
        >
          <Marks marks={marks} first={drawn.first} last={drawn.last} base={base} />
        </div>
        {hidden > 0 && (
          <span className="more" style={placed({ right: 6, top: height - 18 })}>
            {phrase('season.moreHere', { n: hidden })}
          </span>
        )}
      </chakra.div>
    </div>
  );
}

/** Not drawn anew as one goes along: only where other days are drawn or rows are filled anew. */
const Marks = memo(function Marks({
  marks,
  first,
  last,
  base,
}: {
  marks: FilledLane;
  first: number;
  last: number;
  base: number;
}) {
  return marks.placed.map(
    ({ mark, row }) =>
      isIn(mark, { first, last }) && (
        <OneMark key={mark.id} mark={mark} top={5 + row * rowHeight} base={base} long={marks.long} />
      ),
  );
});

const OneMark = memo(function OneMark({
  mark: m,
  top,
  base,
  long,
}: {
  mark: Mark;
  top: number;
  base: number;
  long: boolean;
}) {
  const common = {
    className: m.className,
    'data-event': m.id,
    'aria-label': m.said,
    style: placed({ '--at': m.day - base, '--lasts': m.lasts, top }),
  };
  const words = (
    <>
      {long && (
        <>
          {m.label.title} <span className="num">{m.label.seats}</span>
          {m.label.missing && <i> {m.label.missing}</i>}
        </>
      )}
      {m.atOdds && <em />}
    </>
  );
  return m.to ? (
    <a {...common} href={m.to} draggable={false}>
      {words}
    </a>
  ) : (
    <span {...common} role="note">
      {words}
    </span>
  );
});
