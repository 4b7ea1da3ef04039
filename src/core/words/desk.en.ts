/** What the Desk says that no margin note says, in English. */
export const deskEn = {
  'by day': 'by {{date}}',
  'since day': 'since {{date}}',
  today: 'today',
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
  look: 'Look and decide',
  seats: 'Seats confirmed',
  withdrawn: 'Seats withdrawn',
  donations: 'Donations',
  waivers: 'Waivers signed',
  sent: 'Messages sent',
  failed: 'Messages that failed',
} as const;
