import { statesEn } from './states.en.ts';

/** What a lifeline says of a person, in English; states by their name. */
export const lifelineEn = {
  ...statesEn,
  // Registrations
  booked: 'booked for {{seats:seat|seats}}',
  order: 'order {{number}}',
  // Money
  payment: 'payment',
  refund: 'refund',
  donation: 'donation',
  'paid by': '{{method}}{{more}}',
  receipt: 'receipt {{number}}',
  'receipt void': 'receipt {{number}}, void',
  'monthly gift': 'monthly gift, {{how}}',
  // Shifts
  'as role': '{{role}}',
  'as role for': '{{role}}, {{hours:hour|hours}}',
  // Waivers
  signed: 'signed',
  'signed by a guardian': 'signed by a guardian',
  signature: '{{title}}, version {{version}}, by {{name}}',
  // Sessions
  speaker: 'speaker at',
  sponsor: 'sponsor of',
  'chose a session': 'chose a session of',
  'proposed a session': 'proposed a session for',
  'proposed an event': 'proposed',
  // Surveys
  answered: 'answered',
  counted: 'counted',
  tally: '{{measure}}: {{figure}}',
  // What came back
  'wrote back': 'wrote back',
  'answered by a machine': 'an automatic reply',
  // Notes
  'written by': '{{author}}',
  'written by, due': '{{author}}, due {{date}}',
  'written by, done': '{{author}}, done',
  'written by, due, done': '{{author}}, due {{date}}, done',
  // Clearance
  'plan sent': 'sent a plan for clearance',
  late: '{{days:working day|working days}} late',
  step: '{{step}}{{words}}',
  // The record
  'changed by import': 'changed by an import',
  line: '{{file}}, line {{line}}',
  'line, fields': '{{file}}, line {{line}}: {{fields}}',
  'became a contact': 'became a contact',
  by: 'by {{name}}',
  'as written': '{{words}}',
} as const;
