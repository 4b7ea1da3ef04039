import { cleanDoc } from '#core/text/doc.ts';
import type { Block, Doc, Inline } from '#core/text/types.ts';
import { type Wrong, wrongAt } from '#core/words/problems.ts';
import type { Audience } from './audiences.ts';
import { withoutMarks } from './links.ts';
import { type Engine, fieldsIn, fill, problemsWith, type TextProblem, tagsIn } from './template.ts';

/** The merge fields a message may use, with what they stand for. */
export const mergeFields = {
  name: "the recipient's given name",
  event: 'public title of the event',
  when: 'date and time of the event',
  place: 'name and address of the place',
  event_link: 'the page of the event',
  follow_link: 'link to hear of it, or of its next dates',
  seats: 'who has a seat, one a line',
  manage_link: 'link to see and change the registration',
  waiver_link: 'link to sign the waiver',
  survey_link: 'link to the survey',
  count_link: 'page to count on, as long as there is one',
  next_event: 'the next date that suits them by their history',
  next_event_link: 'the page of that date',
  survey_first_link: 'the first question of the survey, answered with one tap',
  children: 'the children they look after who come',
  session: 'title, room and time of the session',
  shift: 'role, place and time of the shift',
  shifts_link: "link to the volunteer's own page",
  own_link: "link to the recipient's own page",
  organization: 'name of the organization',
  until: 'until when offered seats are kept',
  owed: 'what is still to be paid',
  owed_until: 'until when it is to be paid',
  owes: 'for conditions: there as long as something is still to be paid',
  unnamed: 'how many seats have no name yet',
  named_until: 'until when guests can be named',
  level: 'level of the membership',
  ends: 'last day of the membership',
  gift: 'what was given',
  given_on: 'day of the gift',
  purpose: 'what the gift is for',
  gift_link: 'link to their monthly gift, for another card',
  helped: 'what they helped with, and for how long',
  gave: 'what they gave at the event',
  receipt_amount: 'the amount their receipt is for',
  receipt_link: 'link to their receipt',
  certificate: 'name of the certificate',
  holds_until: 'last day of the certificate',
} as const;
export type MergeField = keyof typeof mergeFields;
export type MergeValues = Partial<Record<MergeField, string>>;
export const isMergeField = (name: string): name is MergeField => Object.hasOwn(mergeFields, name);

/** What every message of an event can say. */
const ofEvent = ['name', 'event', 'when', 'place', 'organization', 'event_link', 'follow_link'] as const;
const ofAnybody = ['name', 'organization', 'own_link'] as const;
const ofOrder = [
  'manage_link',
  'waiver_link',
  'seats',
  'owed',
  'owed_until',
  'owes',
  'unnamed',
  'named_until',
] as const;

const ofSurvey = ['survey_link', 'survey_first_link'] as const;

/** What a line can say to those it is for. */
export function fieldsOfLine(audience: Audience): readonly MergeField[] {
  if (audience === 'members') return [...ofAnybody, 'level', 'ends'];
  if (audience === 'givers') return [...ofAnybody, 'gift', 'given_on', 'purpose'];
  if (audience === 'pledgers') return [...ofAnybody, 'gift', 'purpose', 'gift_link'];
  if (audience === 'certified') return [...ofAnybody, 'certificate', 'holds_until'];
  if (audience === 'following') return ofEvent;
  if (audience === 'crew') return [...ofEvent, 'shift', 'shifts_link', 'count_link', ...ofSurvey];
  // Whoever looks after a child need not be whoever booked: they read nothing of the booking.
  if (audience === 'sessions') return [...ofEvent, 'session'];
  if (audience === 'guardians') return [...ofEvent, 'children', ...ofSurvey];
  return audience === 'attendees'
    ? [...ofEvent, ...ofOrder, ...ofSurvey, 'count_link', 'next_event', 'next_event_link']
    : [...ofEvent, ...ofOrder];
}

/** What is wrong with a text that may say some fields and no others, among them some that it alone has. */
export const problemsAmong = (text: string, fields: readonly string[]): TextProblem[] =>
  problemsWith(
    text,
    (field) => isMergeField(field) || fields.includes(field),
    (field) => fields.includes(field),
  );

/** What is wrong with a text of a line to some audience. */
export const problemsInLine = (text: string, audience: Audience): TextProblem[] =>
  problemsAmong(text, fieldsOfLine(audience));

/** What is wrong with a text, as it is said beside its field. */
export const wrongIn = (path: string, problems: readonly TextProblem[]): Wrong[] =>
  problems.map(({ code, what, line }) => wrongAt(path, code, { field: what, line }));

/** Values by field. Only fields of links may bring a mark of a link (see links.ts): neither a text nor a name smuggles one in. */
function clean(values: MergeValues, own: Readonly<Record<string, string>>): Record<string, string> {
  return Object.fromEntries(
    Object.entries({ ...values, ...own }).map(([name, value]) => [
      name,
      name.endsWith('_link') ? value : withoutMarks(value),
    ]),
  );
}

/** How empty fields are taken: a text of ours says nothing there, one that somebody wrote is not sent with a gap in it. */
export interface Taken {
  /** Fields of this one message alone, which no template offers. */
  own?: Readonly<Record<string, string>> | undefined;
  strict?: boolean;
}

/** Fills a text. Throws EmptyField where it is strict and a field it says is empty, BrokenText where it cannot be read. */
export const merge = (text: string, values: MergeValues, { own = {}, strict = false }: Taken = {}): string =>
  fill(strict ? 'strict' : 'lenient', withoutMarks(text), clean(values, own));

/**
 * A formatted text as one string, in which conditions and fields stand as they were typed: within it they are filled in across
 * blocks. Whatever they say is written as JSON has it.
 */
const asSource = (doc: Doc): string =>
  withoutMarks(JSON.stringify(doc)).replace(tagsIn, (tag) => {
    try {
      return JSON.parse(`"${tag}"`) as string;
    } catch {
      return tag;
    }
  });

/** What is wrong with a formatted text; also where a condition begins in one kind of block and ends in another. */
export function problemsInDoc(doc: Doc, problemsOf: (text: string) => TextProblem[]): TextProblem[] {
  const texts: string[] = [];
  visit(doc.content, (inline) => {
    if (inline.type === 'text') texts.push(inline.text);
  });
  const found = problemsOf(texts.join('\n'));
  if (found.length) return found;
  const source = asSource(doc);
  // With every condition met, and with none.
  for (const value of ['x', ''])
    try {
      JSON.parse(
        fill('lenientJson', source, Object.fromEntries(fieldsIn(source).map((field) => [field, value]))),
      );
    } catch {
      return [
        { code: 'text-broken', what: texts.find((t) => t.includes('{%'))?.slice(0, 60) ?? '', line: 1 },
      ];
    }
  return [];
}

/** Fills a formatted text, as `merge` does. Paragraphs of which nothing is left, because they held conditions alone, go. */
export function mergeDoc(doc: Doc, values: MergeValues, { own = {}, strict = false }: Taken = {}): Doc {
  const engine: Engine = strict ? 'strictJson' : 'lenientJson';
  const filled = JSON.parse(fill(engine, asSource(doc), clean(values, own))) as Doc;
  const lines = (inlines: Inline[]): Inline[] =>
    inlines.flatMap((inline): Inline[] =>
      inline.type === 'text' && inline.text.includes('\n')
        ? inline.text
            .split('\n')
            .flatMap((text, at): Inline[] => [
              ...(at ? [{ type: 'hardBreak' as const }] : []),
              { ...inline, text },
            ])
        : [inline],
    );
  const blocks = (content: Block[]): Block[] =>
    content.flatMap((block): Block[] => {
      switch (block.type) {
        case 'paragraph': {
          const said = lines(block.content ?? []);
          return said.some((i) => i.type === 'text' && i.text.trim()) ? [{ ...block, content: said }] : [];
        }
        case 'heading':
          return [{ ...block, content: lines(block.content ?? []) }];
        case 'bulletList':
        case 'orderedList': {
          const items = block.content
            .map((item) => ({ ...item, content: blocks(item.content) }))
            .filter((item) => item.content.length);
          return items.length ? [{ ...block, content: items }] : [];
        }
        case 'blockquote':
          return [{ ...block, content: blocks(block.content) }];
        default:
          return [block];
      }
    });
  return cleanDoc({ ...filled, content: blocks(filled.content) });
}

/** Everything a line says in a row: text, wherever it stands. */
function visit(content: readonly Block[], each: (inline: Inline) => void): void {
  for (const block of content)
    switch (block.type) {
      case 'paragraph':
      case 'heading':
        for (const inline of block.content ?? []) each(inline);
        break;
      case 'bulletList':
      case 'orderedList':
        for (const item of block.content) visit(item.content, each);
        break;
      case 'blockquote':
        visit(block.content, each);
        break;
      case 'table':
        for (const row of block.content) for (const cell of row.content) visit(cell.content, each);
        break;
    }
}
