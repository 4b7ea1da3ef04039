import { freshQuestion, isQuestion, type Segment } from '#core/records/segment.ts';
import { Button } from '#web/kit/Button.tsx';
import { SegmentQuestion } from './SegmentQuestion.tsx';

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
    <fieldset className="segment-group">
      <legend>
        <select
          aria-label={place ? `Group ${place}: how it is joined` : 'How the questions are joined'}
          value={join}
          onChange={(e) => change(groupOf(e.target.value as Join, list))}
        >
          <option value="all">all of these</option>
          <option value="any">any of these</option>
          <option value="none">none of these</option>
        </select>
        {remove && (
          <Button look="link" onClick={remove} aria-label={`Remove group ${place}`}>
            Remove
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
      <div className="acts">
        <Button onClick={() => put([...list, freshQuestion('attended')])}>Add a question</Button>
        <Button look="plain" onClick={() => put([...list, { any: [freshQuestion('attended')] }])}>
          Add a group
        </Button>
      </div>
    </fieldset>
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
  const label = `Question ${place}`;
  const wrap = (s: Segment): Segment => (negated ? { not: s } : s);
  return (
    <div className="segment-line">
      <select
        aria-label={`${label}: is it so`}
        value={negated ? 'not' : 'is'}
        onChange={(e) => change(e.target.value === 'not' ? { not: inner } : inner)}
      >
        <option value="is">is</option>
        <option value="not">is not</option>
      </select>
      <SegmentQuestion question={inner} change={(q) => change(wrap(q))} label={label} />
      {remove && (
        <Button look="link" onClick={remove} aria-label={`Remove ${label.toLowerCase()}`}>
          Remove
        </Button>
      )}
      {inner.ask === 'in the household of' && (
        <SegmentBuilder
          segment={asGroup(inner.who)}
          change={(who) => change(wrap({ ...inner, who }))}
          place={`${place}.who`}
        />
      )}
    </div>
  );
}
