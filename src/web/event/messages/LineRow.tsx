import type { LineOfPlan } from '#contract/messages.ts';
import type { MessageLinePlan } from '#contract/plan.ts';
import { sayAudience } from '#core/messages/audiences.ts';
import { frenchLags } from '#core/messages/lagging.ts';
import { LineShown } from '../../parts/lines/LineShown.tsx';
import { useSaying } from '../../parts/saying.ts';
import { phrase } from '../../words/phrase.ts';
import { movedBy, withAfter } from './lines.ts';
import type { useInherited } from './useInherited.ts';
import type { useLines } from './useLines.ts';

/** One line of an event. */
export function LineRow({
  line,
  plan,
  lines: { lines, save, remove, saving },
  may,
  first,
  last,
  from,
  change,
  send,
  preview,
  read,
}: {
  line: LineOfPlan;
  /** The line as it is planned. */
  plan: MessageLinePlan | null;
  lines: ReturnType<typeof useLines>;
  may: boolean;
  first: boolean;
  last: boolean;
  from: ReturnType<typeof useInherited>;
  change: (line: MessageLinePlan) => void;
  send: () => void;
  preview: (to: { key: string; name: string }) => void;
  read: (messageId: string) => void;
}) {
  const { at } = useSaying();
  const to = { when: line.when, words: sayAudience(line.audience) };
  const some = line.rows[0] ?? line.leftOut[0];
  const sub = [
    phrase(line.channel === 'email' ? 'messages.to' : 'messages.toByText', to) +
      (plan?.narrowed.length ? ` (${phrase('messages.someOf')})` : ''),
    plan && frenchLags(plan) && phrase('messages.lags'),
    from.own.has(line.lineId) && from.words.own,
    from.changed.has(line.lineId) && from.words.changed,
    line.sentByHandAt
      ? phrase('messages.sentByHand', { at: at(line.sentByHandAt) })
      : line.firstAt && phrase('messages.first', { firstAt: at(line.firstAt) }),
  ].filter((words): words is string => Boolean(words));
  const acts = may &&
    plan && {
      busy: saving,
      turn: (on: boolean) => save(lines.map((l) => (l.id === plan.id ? { ...l, off: !on } : l))),
      entries: [
        { label: phrase('messages.change'), run: () => change(plan) },
        ...(from.changed.has(plan.id) ? [{ label: from.words.take, run: () => from.takeBack(plan.id) }] : []),
        ...(line.off ? [] : [{ label: phrase('messages.sendNow'), run: send }]),
        ...(some ? [{ label: phrase('messages.preview'), run: () => preview(some) }] : []),
        {
          label: phrase('messages.copy'),
          run: () =>
            save(
              withAfter(lines, plan.id, {
                ...plan,
                id: crypto.randomUUID(),
                name: phrase('messages.copyOf', { name: plan.name }).slice(0, 80),
                // Nobody gets it before it was looked at.
                off: true,
              }),
            ),
        },
        ...(first
          ? []
          : [{ label: phrase('messages.moveUp'), run: () => save(movedBy(lines, plan.id, -1)) }]),
        ...(last
          ? []
          : [{ label: phrase('messages.moveDown'), run: () => save(movedBy(lines, plan.id, 1)) }]),
        { label: phrase('messages.remove'), run: () => remove(plan) },
      ],
    };
  return (
    <LineShown
      line={line}
      sub={sub}
      elsewhere={phrase('messages.lookByPerson')}
      acts={acts || null}
      preview={preview}
      read={read}
    />
  );
}
