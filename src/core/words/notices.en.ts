/** What the team is told of by email, in English. */
export const noticesEn = {
  // Something that happened
  asked: {
    registration: 'Registration',
    request: 'Request for seats',
    'seats given up': 'Seats given up',
    'waiver signed': 'Waiver signed',
    gift: 'Gift',
    'plan back': 'Plan sent back',
    'shift taken': 'Shift taken',
    'shift given back': 'Shift given back',
    'nobody steps in': 'Nobody left to step in',
    'swap wished': 'Another shift wished for',
    question: 'Question on the board',
    'wrote back': 'Reply or question by mail',
  },
  counted: {
    registration: '{{count:registration|registrations}}',
    request: '{{count:request for seats|requests for seats}}',
    'seats given up': '{{count:booking given up|bookings given up}}',
    'waiver signed': '{{count:waiver signed|waivers signed}}',
    gift: '{{count:gift|gifts}}',
    'plan back': '{{count:plan sent back|plans sent back}}',
    'shift taken': '{{count:shift taken|shifts taken}}',
    'shift given back': '{{count:shift given back|shifts given back}}',
    'nobody steps in': '{{count:shift nobody steps in on|shifts nobody steps in on}}',
    'swap wished': '{{count:wish for another shift|wishes for another shift}}',
    question: '{{count:question|questions}}',
    'wrote back': '{{count:reply by mail|replies by mail}}',
  },
  seats: '{{count:seat|seats}}',
  noEvent: 'Apart from events',
};
