/** What follows from a change of an event, in English: told before it is made, and after. */
export const consequencesEn = {
  coming: {
    messagesMoved: '{{count:planned message|planned messages}} will be moved',
    messagesHeldBack: '{{count:planned message|planned messages}} will be held back',
    shiftsMoved: '{{count:shift|shifts}} will be moved along',
    letGo: '{{count:party|parties}} without a confirmed seat will be let go',
    offered: '{{count:party|parties}} from the waitlist will be offered seats',
    reopened: 'Will be reopened for clearance: {{steps}}',
  },
  done: {
    messagesMoved: '{{count:planned message was|planned messages were}} moved',
    messagesHeldBack: '{{count:planned message was|planned messages were}} held back',
    shiftsMoved: '{{count:shift was|shifts were}} moved along',
    letGo: '{{count:party without a confirmed seat was|parties without a confirmed seat were}} let go',
    offered: '{{count:party from the waitlist was|parties from the waitlist were}} offered seats',
    reopened: 'Reopened for clearance: {{steps}}',
  },
} as const;
