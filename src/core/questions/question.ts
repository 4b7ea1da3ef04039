/** What answers a question takes. A consent is a tick that is never there beforehand. */
export const questionKinds = [
  'text',
  'long text',
  'number',
  'date',
  'yes or no',
  'one of',
  'several of',
  'consent',
  'file',
] as const;
export type QuestionKind = (typeof questionKinds)[number];

/** Who reads the answers beside the organizers, who read them all. */
export const readers = ['organizers', 'door', 'name tag'] as const;
export type Reader = (typeof readers)[number];

/** As long as something else was answered so: one of these answers, a yes or no and a tick as "yes" and "no". */
export interface ShownIf {
  questionId: string;
  is: string[];
}

/** A question as asked of a registrant. */
export interface Question {
  id: string;
  /** Of whoever books, once; or of everybody who comes. */
  scope: 'order' | 'attendee';
  kind: QuestionKind;
  prompt: string;
  required: boolean;
  choices: string[];
  /** The offer it belongs to; null for every offer. */
  offerId: string | null;
  /** Null is always. */
  shownIf: ShownIf | null;
  /** Of numbers; null is no limit. */
  least: number | null;
  most: number | null;
  /** What of a contact it asks for: a detail, or the id of a field of one's own; null stays with the event. */
  keeps: string | null;
}

/** What a question is before anything is said of it. */
export const plainQuestion = {
  offerId: null,
  scope: 'attendee',
  kind: 'text',
  help: { en: '' },
  required: false,
  choices: [] as string[],
  shownIf: null,
  least: null,
  most: null,
  keeps: null,
  seenBy: 'organizers',
  sensitive: false,
} as const;

/** True for kinds with choices of their own. */
export const hasChoices = (kind: QuestionKind): boolean => kind === 'one of' || kind === 'several of';
