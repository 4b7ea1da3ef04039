import type { EventPage } from '#contract/events.ts';
import type { EventPlan } from '#contract/plan.ts';
import { isFactCode } from '#core/clearance/facts.ts';
import { sayFact } from '#core/clearance/rules.ts';
import { listChange } from '#core/events/history.ts';
import type { PlanField } from '#core/events/parts.ts';
import { isId } from '#core/words/ids.ts';
import { phrase } from '#web/words/phrase.ts';
import { useAsk } from '../../parts/ask.ts';
import { useSaying } from '../../parts/saying.ts';
import { sayValue } from './fieldWords.ts';

/** A field of a plan with what it said before and after. */
interface Change {
  field: PlanField;
  before: unknown;
  after: unknown;
}

const isList = (value: unknown): value is { id: string }[] =>
  Array.isArray(value) && value.every((row) => typeof row === 'object' && row !== null && 'id' in row);

/** What became of a value, in a few words. */
function sayListed({ before, after }: Change, say: (value: unknown) => string): string {
  if (isList(before) && isList(after) && before.length + after.length > 0) {
    const { added, removed, changed, moved } = listChange(before, after);
    return [
      added.length && phrase('event.historyAdded', { what: added.map(say).join(', ') }),
      removed.length && phrase('event.historyRemoved', { what: removed.map(say).join(', ') }),
      changed.length && phrase('event.historyChanged', { what: changed.map(say).join(', ') }),
      moved && phrase('event.historyMoved'),
    ]
      .filter(Boolean)
      .join('; ');
  }
  return phrase('event.historyFromTo', { before: shortly(say(before)), after: shortly(say(after)) });
}
const shortly = (said: string): string => (said.length > 80 ? `${said.slice(0, 79)}…` : said);

/** Says a value of a plan: what was chosen from a register, and pictures, by their names. */
export function useSayValue(page: EventPage): (value: unknown) => string {
  const choices = useAsk('GET /api/choices').data;
  const { money } = useSaying();
  const named = new Map<unknown, string>([
    ...[...(choices?.units ?? []), ...(choices?.venues ?? [])].map((x) => [x.id, x.name] as const),
    ...(choices?.waivers ?? []).map((w) => [w.id, w.title] as const),
    ...page.pictures.map((p) => [p.id, p.alt.en] as const),
  ]);
  const name = (value: unknown): string =>
    named.get(waiverOf(value) ?? value) ??
    (isId(value) ? phrase('event.noLongerThere') : sayValue(value, money));
  return (value) =>
    Array.isArray(value) && value.length > 0 && value.every((x) => typeof x === 'string')
      ? value.map(name).join(', ')
      : name(value);
}

/** The waiver a rule of who signs is about. */
const waiverOf = (value: unknown): unknown =>
  typeof value === 'object' && value !== null && 'waiverId' in value ? value.waiverId : undefined;

type Answers = Readonly<Record<string, boolean | number>>;

type Doors = EventPlan['doors'];
type Counted = EventPlan['outcomes'];

/** How the doors are kept, in a few words. */
const sayDoors = ({ goHome, most, handover, certificate }: Doors): string =>
  [
    goHome && phrase('event.doorsHome'),
    most !== null && phrase('event.doorsMost', { most }),
    handover && phrase('event.doorsHandover'),
    certificate &&
      phrase('event.doorsCertificate', {
        share: certificate.share,
        of: phrase(certificate.of === 'event' ? 'event.ofTheEvent' : 'event.ofTheSessions'),
      }),
  ]
    .filter(Boolean)
    .join(', ') || phrase('event.doorsUsual');

/** Says what became of a field, in a few words. */
export function useSayChange(page: EventPage): (change: Change) => string {
  const say = useSayValue(page);
  const own = useAsk('GET /api/clearance/facts').data ?? [];
  const measures = useAsk('GET /api/measures').data ?? [];
  const sayCounted = ({ measures: of, opensDays, closesDays }: Counted): string =>
    of.length
      ? phrase('outcomes.historyWindow', {
          measures: of
            .map(({ measureId }) => measures.find((m) => m.id === measureId)?.name.en ?? '')
            .filter(Boolean)
            .join(', '),
          opens: opensDays,
          closes: closesDays,
        })
      : phrase('outcomes.historyNone');
  const sayAnswer = (value: boolean | number | undefined): string =>
    value === undefined
      ? phrase('clearance.notSaid')
      : value === true
        ? phrase('clearance.yes')
        : value === false
          ? phrase('clearance.no')
          : String(value);
  return (change) => {
    if (change.field === 'outcomes') return sayListed(change, (value) => sayCounted(value as Counted));
    if (change.field === 'doors') return sayListed(change, (value) => sayDoors(value as Doors));
    if (change.field !== 'facts') return sayListed(change, say);
    const [before, after] = [change.before ?? {}, change.after ?? {}] as [Answers, Answers];
    return [...new Set([...Object.keys(before), ...Object.keys(after)])]
      .filter((key) => before[key] !== after[key])
      .map((key) =>
        phrase('clearance.answerChanged', {
          fact: isFactCode(key) ? sayFact({ code: key }) : (own.find((f) => f.id === key)?.name ?? ''),
          before: sayAnswer(before[key]),
          after: sayAnswer(after[key]),
        }),
      )
      .join('; ');
  };
}
