/** What the Desk says that no margin note says, in English. */
export const deskEn = {
  // What an entry is about: a stage of an event, or a place
  about: '{{day}}, {{stage}}',
  plan: 'plan',
  clearance: 'clearance',
  registration: 'registration',
  crew: 'crew',
  messages: 'messages',
  doors: 'doors',
  'wrap-up': 'wrap-up',
  task: 'task',
  contacts: 'contacts',
  // The rest
  'by day': 'by {{date}}',
  'since day': 'since {{date}}',
  today: 'today',
  now: 'now',
  soon: 'soon',
  'no rush': 'no rush',
  'step asked': '{{step}} is asked of you: {{because}}.',
  'step asked for no reason': '{{step}} is asked of you.',
  decide: 'Read and decide',
  'open contact': 'Open the contact',
  changes: 'Changes people asked for',
  'changes wait': {
    one: 'One change contradicts the records and waits for a decision.',
    other: '{{count}} changes contradict the records and wait for a decision.',
  },
  pairs: 'Who is who',
  'pairs wait': {
    one: 'One pair of contacts may be one person.',
    other: '{{count}} pairs of contacts may be one person.',
  },
  money: 'money',
  cards: 'Card processor',
  'cards wait': {
    one: 'One thing at the card processor is to be settled: contested, not gone through, or not explained.',
    other:
      '{{count}} things at the card processor are to be settled: contested, not gone through, or not explained.',
  },
  sending: 'Sending is stopped',
  'sending stopped': {
    one: '{{by}} stopped it. One message is due and waits.',
    other: '{{by}} stopped it. {{count}} messages are due and wait.',
  },
  'sending stopped, none': '{{by}} stopped it. Nothing was due since.',
  'see sending': 'Open the Tray',
  'questions open': {
    one: 'One question waits for an answer.',
    other: '{{count}} questions wait for an answer.',
  },
  'questions open, by': {
    one: 'One question waits for an answer. {{by}} answers.',
    other: '{{count}} questions wait for an answer. {{by}} answers.',
  },
  'came in': 'People wrote back',
  'came in open': {
    one: 'One reply or question waits for an answer.',
    other: '{{count}} replies and questions wait for an answer.',
  },
  answer: 'Answer',
  gifts: 'Monthly gifts',
  'gifts missed': {
    one: 'For one monthly gift no card works any more. Whoever gives was written to; a call may help.',
    other:
      'For {{count}} monthly gifts no card works any more. Those who give were written to; a call may help.',
  },
  'look at gifts': 'Look at the gifts',
  settle: 'Look and settle',
  look: 'Look and decide',
  seats: 'Seats confirmed',
  withdrawn: 'Seats withdrawn',
  donations: 'Donations',
  waivers: 'Waivers signed',
  sent: 'Messages sent',
  failed: 'Messages that failed',
} as const;
