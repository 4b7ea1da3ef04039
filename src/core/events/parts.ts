/** The parts of a plan: each is read, checked and saved by itself, so that two people can write on one plan. */
export const planParts = [
  'page',
  'text',
  'french',
  'pictures',
  'faqs',
  'buttons',
  'registering',
  'organizer',
  'files',
  'look',
  'search',
  'notes',
  // Before the times: who decides to share a place is heard before the time that needs it.
  'place',
  'times',
  'reach',
  'safety',
  'doors',
  'speakers',
  'sponsors',
  'agenda',
  'call',
  'admission',
  'offers',
  'questions',
  'messages',
  'survey',
  'outcomes',
] as const;
export type PlanPart = (typeof planParts)[number];

/** Which part each field of a plan belongs to. */
export const partOf = {
  slug: 'page',
  publicTitle: 'page',
  teamTitle: 'page',
  subtitle: 'page',
  summary: 'page',
  description: 'text',
  french: 'french',
  bannerId: 'pictures',
  gallery: 'pictures',
  faqs: 'faqs',
  buttons: 'buttons',
  afterwards: 'registering',
  fullWords: 'registering',
  registerAt: 'registering',
  organizer: 'organizer',
  dayFiles: 'files',
  goal: 'registering',
  giftFunds: 'registering',
  look: 'look',
  searchTitle: 'search',
  searchText: 'search',
  notes: 'notes',
  category: 'page',
  draws: 'page',
  startsLocal: 'times',
  endsLocal: 'times',
  doorsLocal: 'times',
  registrationClosesLocal: 'times',
  zone: 'times',
  allDay: 'times',
  showEnd: 'times',
  secondTime: 'times',
  venueId: 'place',
  roomId: 'place',
  layout: 'place',
  beside: 'place',
  capacity: 'place',
  online: 'place',
  onlineCapacity: 'place',
  whenFull: 'place',
  waitRule: 'place',
  unitId: 'reach',
  partnerIds: 'reach',
  visibility: 'reach',
  listed: 'reach',
  facts: 'safety',
  waivers: 'safety',
  doors: 'doors',
  speakers: 'speakers',
  sponsors: 'sponsors',
  tracks: 'agenda',
  sessions: 'agenda',
  call: 'call',
  admission: 'admission',
  offers: 'offers',
  extras: 'offers',
  codes: 'offers',
  taxes: 'offers',
  currency: 'offers',
  refunds: 'offers',
  balanceDays: 'offers',
  questions: 'questions',
  forgetDays: 'questions',
  namesDays: 'questions',
  messages: 'messages',
  surveys: 'survey',
  outcomes: 'outcomes',
} as const satisfies Record<string, PlanPart>;
export type PlanField = keyof typeof partOf;

/** Fields that are rows of their own. */
const listFields = [
  'offers',
  'extras',
  'codes',
  'questions',
  'messages',
  'surveys',
  'speakers',
  'sponsors',
  'sessions',
] as const;
export type ListField = (typeof listFields)[number];
/** Fields that are a value of the event itself. */
export type PlainField = Exclude<PlanField, ListField>;
export const plainFields = (Object.keys(partOf) as PlanField[]).filter(
  (field): field is PlainField => !(listFields as readonly string[]).includes(field),
);

/** The parts that a change of some fields touches. */
export const partsOf = (fields: readonly PlanField[]): PlanPart[] => [
  ...new Set(fields.map((field) => partOf[field])),
];

/** The parts that somebody else saved after `seen`, the version of the plan that a change was written on. */
export const clashing = (
  touched: readonly PlanPart[],
  savedAt: Readonly<Partial<Record<PlanPart, number>>>,
  seen: number,
): PlanPart[] => touched.filter((part) => (savedAt[part] ?? 1) > seen);
