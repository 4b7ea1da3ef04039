import { chakra, type SystemStyleObject } from '@chakra-ui/react';
import { freshQuestion, isQuestion, type Segment } from '#core/records/segment.ts';
import { Button } from '#web/kit/Button.tsx';
import { InlineChoice } from '#web/kit/Inline.tsx';
import { phrase } from '#web/words/phrase.ts';
import { SegmentQuestion } from './SegmentQuestion.tsx';

const segmentLineLook: SystemStyleObject = {
  display: 'flex',
  flexWrap: 'wrap',
  gap: '6px 8px',
  alignItems: 'center',
  padding: '7px 0',
  borderBottom: '1px solid var(--line)',
  fontSize: '14px',
  '& > .segment-group': {
    flexBasis: '100%',
  },
};
const segmentGroupLook: SystemStyleObject = {
  border: 0,
  borderLeft: '2px solid var(--rule)',
  margin: '8px 0',
  padding: '0 0 4px 14px',
  minWidth: 0,
  '& legend': {
    padding: 0,
    marginLeft: '-14px',
    display: 'flex',
    gap: '12px',
    alignItems: 'center',
  },
};

type Group = { all: readonly Segment[] } | { any: readonly Segment[] } | { not: { any: readonly Segment[] } };
type Join = 'all' | 'any' | 'none';

const isGroup = (s: Segment): s is Group =>
  'all' in s || 'any' in s || ('not' in s && !isQuestion(s.not) && 'any' in s.not);
const joinOf = (g: Group): Join => ('all' in g ? 'all' : 'any' in g ? 'any' : 'none');
const listOf = (g: Group): readonly Segment[] => ('all' in g ? g.all : 'any' in g ? g.any : g.not.any);
const groupOf = (join: Join, list: readonly Segment[]): Group =>
  join === 'all' ? { all: list } : join === 'any' ? { any: list } : { not: { any: list } };

/** A segment as a group at its top, which is how it is edited. */
export const asGroup = (s: Segment): Segment => (isGroup(s) ? s : { all: [s] });

/** Questions and groups of questions, joined by all, any or none. */
export function SegmentBuilder({
  segment,
  change,
  remove,
  place = '',
}: {
  segment: Segment;
  change: (segment: Segment) => void;
  remove?: () => void;
  /** "2.1": which question of which group, for people who cannot see the nesting. */
  place?: string;
}) {
  if (!isGroup(segment)) return <Line segment={segment} change={change} remove={remove} place={place} />;
  const join = joinOf(segment);
  const list = listOf(segment);
  const put = (next: readonly Segment[]) => change(groupOf(join, next));
  return (
    <chakra.fieldset css={segmentGroupLook}>
      <legend>
        <InlineChoice
          label={place ? phrase('records.groupHowItIs', { place }) : phrase('records.howTheQuestionsAre')}
          value={join}
          set={(to) => change(groupOf(to as Join, list))}
          choices={[
            { value: 'all', label: phrase('records.allOfThese') },
            { value: 'any', label: phrase('records.anyOfThese') },
            { value: 'none', label: phrase('records.noneOfThese') },
          ]}
        />
        {remove && (
          <Button look="link" onClick={remove} aria-label={phrase('records.removeGroup', { place })}>
            {phrase('common.remove')}
          </Button>
        )}
      </legend>
      {list.map((s, at) => (
        <SegmentBuilder
          // A question has no identity of its own; its place is what it is known by.
          key={at}
          segment={s}
          place={place ? `${place}.${at + 1}` : String(at + 1)}
          change={(next) => put(list.map((x, n) => (n === at ? next : x)))}
          remove={() => put(list.filter((_, n) => n !== at))}
        />
      ))}
      <chakra.div className="acts" marginTop="8px">
        <Button onClick={() => put([...list, freshQuestion('attended')])}>
          {phrase('records.addAQuestion')}
        </Button>
        <Button look="plain" onClick={() => put([...list, { any: [freshQuestion('attended')] }])}>
          {phrase('records.addAGroup')}
        </Button>
      </chakra.div>
    </chakra.fieldset>
  );
}

function Line({
  segment,
  change,
  remove,
  place,
}: {
  segment: Segment;
  change: (segment: Segment) => void;
  remove?: (() => void) | undefined;
  place: string;
}) {
  const negated = 'not' in segment;
  const inner = negated ? segment.not : segment;
  // A group under a lone “not” that is no “none of these” is shown as a group.
  if (!isQuestion(inner))
    return (
      <SegmentBuilder
        segment={negated ? { not: { any: [inner] } } : inner}
        change={change}
        place={place}
        {...(remove ? { remove } : {})}
      />
    );
  const label = phrase('records.questionPlace', { place });
  const wrap = (s: Segment): Segment => (negated ? { not: s } : s);
  return (
    <chakra.div css={segmentLineLook}>
      <InlineChoice
        label={phrase('records.isItSo', { label })}
        value={negated ? 'not' : 'is'}
        set={(to) => change(to === 'not' ? { not: inner } : inner)}
        choices={[
          { value: 'is', label: phrase('records.thoseWho') },
          { value: 'not', label: phrase('records.notThoseWho') },
        ]}
      />
      <SegmentQuestion question={inner} change={(q) => change(wrap(q))} label={label} />
      {remove && (
        <Button look="link" onClick={remove} aria-label={phrase('records.removeQuestion', { place })}>
          {phrase('common.remove')}
        </Button>
      )}
      {inner.ask === 'in the household of' && (
        <SegmentBuilder
          segment={asGroup(inner.who)}
          change={(who) => change(wrap({ ...inner, who }))}
          place={`${place}.who`}
        />
      )}
    </chakra.div>
  );
}
