import type { Wrong } from '#core/words/problems.ts';
import { wrongAt } from '#core/words/problems.ts';
import type { AnswerValue } from '../questions/answering.ts';

/** What of an event an order refers to: its offers by what they are called, its questions by what they ask. */
export interface Referred {
  offers: readonly { id: string; name: string }[];
  questions: readonly { id: string; scope: string; prompt: { en: string } }[];
  extras?: readonly { id: string; name: string; options: readonly { id: string; name: string }[] }[];
}

/** As much of an order as refers to its event. */
interface Order {
  lines: readonly { offerId: string; units: number }[];
  extras?: readonly { extraId: string; optionId: string | null; units: number }[];
  attendees: readonly { answers: Readonly<Record<string, AnswerValue>> }[];
  answers: Readonly<Record<string, AnswerValue>>;
}

/** The extra, and its kind, that is called the same at another date; null where it has none such. */
export function extraThere(
  wanted: { extraId: string; optionId: string | null },
  from: Pick<Referred, 'extras'>,
  to: Pick<Referred, 'extras'>,
): { extraId: string; optionId: string | null } | null {
  const here = from.extras?.find((e) => e.id === wanted.extraId);
  const there = to.extras?.find((e) => e.name === here?.name);
  const kind = here?.options.find((o) => o.id === wanted.optionId)?.name;
  const option = there?.options.find((o) => o.name === kind);
  if (!there || (wanted.optionId && !option)) return null;
  return { extraId: there.id, optionId: option?.id ?? null };
}

/**
 * The same order at another date of a series: for the offers and questions there that are called the same. A date that does not
 * have one of the offers is refused, with its name; what was answered to a question that it does not ask is let go.
 */
export function atOtherDate<O extends Order>(
  order: O,
  from: Referred,
  to: Referred,
  path: string,
): { order: O } | { wrong: Wrong } {
  const lines: { offerId: string; units: number }[] = [];
  for (const line of order.lines) {
    const name = from.offers.find((o) => o.id === line.offerId)?.name ?? '';
    const there = to.offers.find((o) => o.name === name);
    if (!there) return { wrong: wrongAt(path, 'offer-not-there', { offer: name }) };
    lines.push({ ...line, offerId: there.id });
  }
  const extras: NonNullable<Order['extras']>[number][] = [];
  for (const wanted of order.extras ?? []) {
    const there = extraThere(wanted, from, to);
    if (!there)
      return {
        wrong: wrongAt(path, 'offer-not-there', {
          offer: from.extras?.find((e) => e.id === wanted.extraId)?.name ?? '',
        }),
      };
    extras.push({ ...wanted, ...there });
  }
  const answers = (given: Readonly<Record<string, AnswerValue>>) =>
    Object.fromEntries(
      Object.entries(given).flatMap(([id, value]) => {
        const asked = from.questions.find((q) => q.id === id);
        const there =
          asked && to.questions.find((q) => q.scope === asked.scope && q.prompt.en === asked.prompt.en);
        return there ? [[there.id, value]] : [];
      }),
    );
  return {
    order: {
      ...order,
      lines,
      ...(order.extras ? { extras } : {}),
      answers: answers(order.answers),
      attendees: order.attendees.map((a) => ({ ...a, answers: answers(a.answers) })),
    },
  };
}
