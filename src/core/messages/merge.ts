import { withoutMarks } from './links.ts';

/** The merge fields a message may use, with what they stand for. */
export const mergeFields = {
  name: "the recipient's given name",
  event: 'public title of the event',
  when: 'date and time of the event',
  place: 'name and address of the place',
  seats: 'who has a seat, one a line',
  manage_link: 'link to see and change the registration',
  waiver_link: 'link to sign the waiver',
  survey_link: 'link to the survey',
  shift: 'role, place and time of the shift',
  shifts_link: "link to the volunteer's own page",
  own_link: "link to the recipient's own page",
  organization: 'name of the organization',
  until: 'until when offered seats are kept',
  owed: 'what is still to be paid',
  owed_until: 'until when it is to be paid',
} as const;
export type MergeField = keyof typeof mergeFields;
export type MergeValues = Partial<Record<MergeField, string>>;

const field = /\{\{\s*([a-z_]+)\s*\}\}/gu;

/** Names used in a text that are no merge field, so that a slip is found before anything is sent. */
export function unknownFields(text: string): string[] {
  return [...text.matchAll(field)].map((m) => m[1]!).filter((name) => !Object.hasOwn(mergeFields, name));
}

/**
 * Fills a text. A field without a value becomes nothing; unknown fields stay as typed. Only fields of links may bring a
 * mark of a link (see links.ts): neither a template nor a name smuggles one in.
 */
export function merge(
  text: string,
  values: MergeValues,
  /** Fields of this one message alone, which no template offers. */
  own: Readonly<Record<string, string>> = {},
): string {
  return withoutMarks(text).replace(field, (whole, name: string) => {
    if (!Object.hasOwn(mergeFields, name) && !Object.hasOwn(own, name)) return whole;
    const value = own[name] ?? values[name as MergeField] ?? '';
    return name.endsWith('_link') ? value : withoutMarks(value);
  });
}
