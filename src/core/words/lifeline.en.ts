/** What a lifeline says of a person, in English; states by their name. */
export const lifelineEn = {
  // Registrations
  asked: 'asked',
  held: 'held',
  waitlisted: 'waitlisted',
  offered: 'offered',
  confirmed: 'confirmed',
  withdrawn: 'withdrawn',
  declined: 'declined',
  lapsed: 'lapsed',
  booked: 'booked for {{seats:seat|seats}}',
  order: 'order {{number}}',
  // Attendance
  arrived: 'arrived',
  left: 'left',
  missed: 'missed',
  // Money
  payment: 'payment',
  refund: 'refund',
  donation: 'donation',
  paid: '{{method}}{{more}}',
  card: 'card',
  cash: 'cash',
  transfer: 'transfer',
  waived: 'waived',
  // Shifts
  proposed: 'proposed',
  agreed: 'agreed',
  dropped: 'dropped',
  served: 'served',
  'as role': '{{role}}',
  'as role for': '{{role}}, {{hours:hour|hours}}',
  // Waivers
  signed: 'signed',
  'signed by a guardian': 'signed by a guardian',
  signature: '{{title}}, version {{version}}, by {{name}}',
  // Messages
  sent: 'sent',
  failed: 'failed',
  bounced: 'bounced',
  // Surveys
  answered: 'answered',
  // Notes
  'written by': '{{author}}',
  'written by, due': '{{author}}, due {{date}}',
  'written by, done': '{{author}}, done',
  'written by, due, done': '{{author}}, due {{date}}, done',
  // Clearance
  'plan sent': 'sent a plan for clearance',
  late: '{{days:working day|working days}} late',
  cleared: 'cleared',
  'cleared with conditions': 'cleared with conditions',
  'sent back': 'sent back',
  refused: 'refused',
  reopened: 'reopened',
  step: '{{step}}{{words}}',
  // The record
  'changed by import': 'changed by an import',
  line: '{{file}}, line {{line}}',
  'line, fields': '{{file}}, line {{line}}: {{fields}}',
  'became a contact': 'became a contact',
  by: 'by {{name}}',
  'as written': '{{words}}',
} as const;
