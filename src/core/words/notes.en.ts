/** What is remarked beside an event, in English: a headline, more about it, and what the button says. */
export const notesEn = {
  proposed: {
    headline: 'Proposed by {{name}}.',
    text: 'Take it up, or decline it: they wait for an answer.',
    action: 'Read it',
  },
  'sent-back': { headline: 'Sent back.', text: '{{words}}', action: 'Read and revise' },
  'not-ready': {
    headline: 'Not ready: {{things:thing|things}} missing.',
    text: '{{which}}',
    action: 'Open the plan',
  },
  'late-for-clearance': {
    headline: '{{days:day|days}} late for clearance.',
    text: 'The steps may not be through in time; send it and say why.',
    action: 'Send for clearance',
  },
  'last-day-to-send': {
    headline: 'Today is the last day to send it.',
    text: '',
    action: 'Send for clearance',
  },
  'days-to-send': {
    headline: '{{days:day|days}} left to send it for clearance.',
    text: '',
    action: 'Send for clearance',
  },
  'asks-late': {
    headline: 'Sent {{days:day|days}} late.',
    text: 'A coordinator says whether it goes to its approvers.',
    action: 'Read and say',
  },
  'step-overdue': {
    headline: '{{step}} has not decided.',
    text: 'It is {{days:day|days}} overdue.',
    action: 'See the steps',
  },
  'with-approver': { headline: 'With {{step}}.', text: 'A decision is awaited.', action: '' },
  'cleared-not-open': {
    headline: 'Cleared, and not open yet.',
    text: 'Nobody can register before it is opened.',
    action: 'Open registration',
  },
  condition: { headline: 'Condition by {{step}}.', text: '{{what}}', action: 'See to it' },
  'condition-blocks': {
    headline: 'It opens once a condition by {{step}} is met.',
    text: '{{what}}',
    action: 'See to it',
  },
  'condition-late': {
    headline: 'A condition by {{step}} is {{days:day|days}} late.',
    text: '{{what}}',
    action: 'See to it',
  },
  'messages-failed': {
    headline: '{{messages:message|messages}} failed.',
    text: 'Those that can be are tried again by themselves.',
    action: 'See which',
  },
  'payments-unknown': {
    headline: '{{payments:payment|payments}} without an answer.',
    text: 'The card processor has not said whether money moved. The seats are kept.',
    action: 'See who',
  },
  'to-pay-back': {
    headline: '{{sum}} to pay back.',
    text: '{{orders:order|orders}} paid more than is due now.',
    action: 'See who',
  },
  'children-unsigned': {
    headline: '{{children:child has|children have}} no guardian’s signature.',
    text: 'They cannot take part without it.',
    action: 'See who',
  },
  'age-unknown': {
    headline: 'The age of {{people:person|people}} is not known.',
    text: 'Until it is, a guardian has to sign for them.',
    action: 'See who',
  },
  'waivers-missing': {
    headline: '{{waivers:waiver|waivers}} still missing.',
    text: 'The reminder goes out by itself.',
    action: 'See who',
  },
  'waivers-missing-soon': {
    headline: '{{waivers:waiver|waivers}} still missing.',
    text: 'The door stops anyone who has not signed.',
    action: 'See who',
  },
  'party-fits': {
    headline: 'A party of {{seats}} fits now.',
    text: '{{name}} is the first that fits.',
    action: 'Offer the seats',
  },
  'waiting-full': {
    headline: '{{people:person|people}} waiting in {{parties:party|parties}}.',
    text: 'Every seat is taken.',
    action: '',
  },
  'waiting-too-few': {
    headline: '{{people:person|people}} waiting in {{parties:party|parties}}.',
    text: '{{free}} free, too few for the first of them.',
    action: '',
  },
  'offers-out': {
    headline: '{{offers:offer|offers}} of seats out.',
    text: 'They lapse by themselves and go on to the next party.',
    action: '',
  },
  'shifts-unfilled': {
    headline: '{{places:place|places}} unfilled in {{shifts:shift|shifts}}.',
    text: 'First: {{role}}.',
    action: 'Fill the shifts',
  },
  'crew-missing': {
    headline: '{{people:person of the crew is|people of the crew are}} missing.',
    text: 'Their shift goes on, and nobody ticked them off.',
    action: 'See who',
  },
  'attendance-disputed': {
    headline: '{{people:person says|people say}} that their attendance is not right.',
    text: 'Correct it or leave it; they are told either way.',
    action: 'Look at it',
  },
  'tallies-waiting': {
    headline: '{{tallies:tally waits|tallies wait}} to be looked at.',
    text: 'They do not count before somebody has.',
    action: 'Look at them',
  },
  'nobody-steps-in': {
    headline: 'Nobody steps in on {{shifts:shift|shifts}}.',
    text: 'Everybody who could was asked.',
    action: 'Look at the crew',
  },
  'swaps-wished': {
    headline: '{{people:person wishes|people wish}} for another shift.',
    text: 'Whether it works out is worked out for you.',
    action: 'Look at the swaps',
  },
  'stepping-in': {
    headline: '{{people:person is|people are}} asked to step in.',
    text: 'Whoever does not answer in time is passed over for the next.',
    action: '',
  },
  applied: {
    headline: '{{people:person|people}} applied to help.',
    text: 'They wait for a word.',
    action: 'Read them',
  },
  'shifts-asked': {
    headline: '{{people:person asks|people ask}} for a shift.',
    text: 'Say whether it is theirs.',
    action: 'Decide',
  },
  overdue: {
    headline: '{{sum}} is overdue.',
    text: 'By {{orders:order|orders}} that should have been paid.',
    action: 'See who',
  },
  owed: { headline: '{{sum}} still owed.', text: 'By {{orders:order|orders}}.', action: 'See who' },
  'worth-knowing': { headline: '', text: '{{words}}', action: '' },
  'hours-open': {
    headline: '{{shifts:shift|shifts}} without hours.',
    text: 'Say who served, so that hours count.',
    action: 'Record hours',
  },
  'figures-disagree': { headline: 'The figures do not agree.', text: '{{check}}', action: 'See the figures' },
  'survey-answered': {
    headline: '{{answered}} of {{asked}} answered the survey.',
    text: '',
    action: 'Read the answers',
  },
  'not-wrapped': {
    headline: 'Over, and not wrapped up.',
    text: 'Look at the figures and close the book.',
    action: 'Wrap up',
  },
} as const;

/** By when a remark is to be settled. */
export const duesEn = {
  none: '',
  past: 'past',
  today: 'today',
  tomorrow: 'tomorrow',
  'in-days': 'in {{days:day|days}}',
  'days-late': '{{days:day|days}} late',
  'days-left': '{{days:day|days}} left',
  now: 'now',
  'this-week': 'this week',
} as const;
