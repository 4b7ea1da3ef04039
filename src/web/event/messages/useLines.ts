import type { EventPage } from '#contract/events.ts';
import type { MessageLinePlan } from '#contract/plan.ts';
import { say } from '../../kit/toast.tsx';
import { useAction } from '../../parts/ask.ts';
import { phrase } from '../../words/phrase.ts';

/** Saves the lines of an event's plan, all of them at once; what was removed can be had back. */
export function useLines(page: EventPage) {
  const patch = useAction('PATCH /api/events/:id');
  const lines = page.plan.messages;
  const save = (
    messages: readonly MessageLinePlan[],
    then?: (version: number) => void,
    version = page.version,
  ) =>
    patch.mutate(
      { params: { id: page.id }, body: { version, change: { messages: [...messages] } } },
      { onSuccess: (answer) => then?.(answer.version) },
    );
  const remove = (line: MessageLinePlan) =>
    save(
      lines.filter((l) => l.id !== line.id),
      (version) =>
        say(phrase('messages.removed', { name: line.name }), {
          label: phrase('messages.undo'),
          run: () => save(lines, undefined, version),
        }),
    );
  return { lines, save, remove, saving: patch.isPending, problem: patch.problem };
}
