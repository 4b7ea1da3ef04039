/** Why a shift of a roster is short, what would fill it, and what is wrong with a file of one. */
export const rosterEn = {
  nobody: 'There is nobody who is not on it.',
  busy: '{{count:person is|people are}} on another shift then',
  rest: '{{count:person has|people have}} too little rest beside another shift',
  shifts: '{{count:person has|people have}} as many shifts as they want',
  hours: '{{count:person has|people have}} as many hours as they want',
  days: '{{count:person has|people have}} as many days in a row as they want',
  available: '{{count:person is|people are}} not there then',
  apart: '{{count:person is|people are}} kept apart from somebody on it',
  alone: '{{count:person is|people are}} under age, with nobody of age on it',
  skill: '{{count:person lacks|people lack}} a skill it needs',
  'change-rest': '{{count:person is|people are}} free if rest is {{to}} h instead of {{from}} h.',
  'change-shifts': '{{count:person is|people are}} free with {{to}} more shift than they want.',
  'change-hours': '{{count:person is|people are}} free with {{to}} h more than they want.',
  'change-days': '{{count:person is|people are}} free with {{to}} more days in a row than they want.',
  'change-available':
    '{{count:person is|people are}} free if they stay or come {{to}} h beyond what they said.',
  'change-apart':
    '{{count:person is|people are}} free if they may be on it with whom they are kept apart from.',
  'change-alone': '{{count:person is|people are}} free once somebody of age is on it.',
  'change-skill': '{{count:person is|people are}} free if they learn what it needs, or it needs less.',
  'id-twice': 'This id stands here twice.',
  'no-such-person': 'Nobody has this id.',
  'no-such-shift': 'No shift has this id.',
  'ends-before-it-starts': 'It ends before it starts.',
  'wished-below-least': 'Fewer are wished than it takes at least.',
  'with-themselves': 'This is the same person.',
} as const;
