/** Whom the lines of a message plan are for, in English. */
export const audiencesEn = {
  orders: 'whoever booked',
  attendees: 'attendees',
  guardians: 'guardians of the children who come',
  sessions: 'whoever chose the session',
  crew: 'crew',
  waiting: 'parties on the waitlist',
  accepted: 'whoever was accepted',
  offered: 'whoever is offered a seat',
  'given up': 'whoever gave seats up',
  following: 'those who follow it without a seat',
  members: 'whoever holds it',
  givers: 'whoever gave',
  pledgers: 'whoever gives it',
  certified: 'whoever has it',
} as const;
