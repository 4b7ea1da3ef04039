/** The letter that says what somebody served, in English. */
export const hoursEn = {
  title: 'Volunteer hours',
  says: '{{name}} served {{hours:hour|hours}} as a volunteer of {{organization}} between {{from}} and {{until}}.',
  none: 'Nothing is recorded for {{name}} between {{from}} and {{until}}.',
  day: 'Day',
  event: 'Event',
  role: 'Role',
  hours: 'Hours',
  sum: 'In all',
  counted: 'The hours are those recorded by {{organization}} on {{today}}.',
  signed: 'For {{organization}}',
} as const;
