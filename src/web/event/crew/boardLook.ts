import type { SystemStyleObject } from '@chakra-ui/react';

/** Which way time goes on the board. */
export type Flow = 'across' | 'down';

/** What is left before the first row of a lane and after its last, together, in pixels. */
export const laneGap = 10;

/**
 * In pixels, by which way time goes: how much a row of a lane takes, and a shift in it; the line of times before the first lane; the
 * names of the lanes before the first time; and how much of time a screen shows, where that is not the width of the board.
 */
export const flows: Readonly<
  Record<Flow, { row: number; bar: number; head: number; names: number; screen: number | null }>
> = {
  across: { row: 44, bar: 38, head: 26, names: 138, screen: null },
  down: { row: 128, bar: 122, head: 56, names: 44, screen: 620 },
};

/** The board as it is drawn: lines of the clock, lanes, and shifts in them. */
export const boardLook: SystemStyleObject = {
  position: 'relative',
  background: 'sheet',
  border: '1px solid',
  borderColor: 'line',
  overflowX: 'auto',
  overflowY: 'clip',
  userSelect: 'none',
  '& .plane': { position: 'relative' },
  '& .tick': {
    position: 'absolute',
    top: 0,
    bottom: 0,
    borderLeft: '1px solid',
    borderColor: 'line',
    pointerEvents: 'none',
  },
  '& .tick span': {
    position: 'absolute',
    left: '4px',
    top: '4px',
    fontSize: '12px',
    color: 'soft',
    whiteSpace: 'nowrap',
  },
  '& .tick.day': { borderColor: 'rule' },
  '& .tick.day span': { color: 'ink', fontWeight: 600 },
  '& .now': {
    position: 'absolute',
    top: 0,
    bottom: 0,
    borderLeft: '1.5px solid',
    borderColor: 'verdigris',
    pointerEvents: 'none',
  },
  '& .lane': { position: 'absolute', left: 0, right: 0, borderTop: '1px solid', borderColor: 'line' },
  '& .lane > .laneName': {
    position: 'sticky',
    left: 0,
    zIndex: 2,
    display: 'block',
    height: '100%',
    padding: '7px 8px 0',
    fontSize: '13px',
    lineHeight: '16px',
    background: 'sheet',
    borderRight: '1px solid',
    borderColor: 'line',
    overflow: 'hidden',
    overflowWrap: 'anywhere',
  },
  '& .laneName b': { fontWeight: 600, display: 'block' },
  '& .shift': {
    position: 'absolute',
    padding: '2px 6px',
    fontFamily: 'inherit',
    fontSize: '12.5px',
    lineHeight: '16px',
    textAlign: 'left',
    whiteSpace: 'nowrap',
    overflow: 'hidden',
    color: 'ink',
    background: 'paper',
    border: '1px solid',
    borderColor: 'line',
    borderRadius: '3px',
    cursor: 'grab',
    touchAction: 'pan-x pan-y',
  },
  // What lacks people is dotted, as a seat that is not taken is outlined; the word says how many.
  '& .shift.short': { borderColor: 'ochre', borderStyle: 'dashed', background: 'sheet' },
  '& .shift.open': { borderStyle: 'dashed', background: 'sheet' },
  '& .shift.past': { color: 'soft' },
  '& .shift.moving': { zIndex: 4, borderColor: 'verdigris', borderStyle: 'solid', cursor: 'grabbing' },
  '& .shift:focus-visible': { outline: '2px solid', outlineColor: 'verdigris', zIndex: 3 },
  '& .shift .fill': { fontWeight: 600, marginRight: '5px' },
  '& .shift.short .fill': { color: 'ochre' },
  '& .shift .what': { display: 'block', overflow: 'hidden', textOverflow: 'ellipsis' },
  '& .shift .whom': {
    display: 'block',
    overflow: 'hidden',
    textOverflow: 'ellipsis',
    color: 'soft',
    fontSize: '12px',
  },
  '& .edge': { position: 'absolute', top: 0, bottom: 0, width: '7px', cursor: 'ew-resize' },
  '& .edge.start': { left: 0 },
  '& .edge.end': { right: 0 },
  '&[data-flow=down]': {
    '& .tick': {
      top: 'auto',
      bottom: 'auto',
      left: 0,
      right: 0,
      borderWidth: '1px 0 0',
      borderStyle: 'solid',
    },
    // Times stay in sight however many lanes there are.
    '& .tick span': {
      position: 'sticky',
      left: 0,
      zIndex: 3,
      display: 'inline-block',
      width: '52px',
      padding: '3px 0 0 4px',
      background: 'sheet',
    },
    '& .now': {
      top: 'auto',
      bottom: 'auto',
      left: 0,
      right: 0,
      borderWidth: '1.5px 0 0',
      borderStyle: 'solid',
    },
    '& .lane': {
      left: 'auto',
      right: 'auto',
      top: 0,
      bottom: 0,
      borderWidth: '0 0 0 1px',
      borderStyle: 'solid',
    },
    '& .lane > .laneName': {
      position: 'static',
      padding: '4px 8px 0',
      borderWidth: '0 0 1px',
      borderStyle: 'solid',
    },
    '& .shift': {
      display: 'flex',
      flexDirection: 'column',
      justifyContent: 'flex-start',
      alignItems: 'flex-start',
      whiteSpace: 'normal',
    },
    '& .edge': {
      left: 0,
      right: 0,
      top: 'auto',
      bottom: 'auto',
      width: 'auto',
      height: '7px',
      cursor: 'ns-resize',
    },
    '& .edge.start': { top: 0 },
    '& .edge.end': { bottom: 0 },
  },
};
