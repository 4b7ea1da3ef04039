/** Whom the steps of a message plan are for, in English. */
export const audiencesEn = {
  orders: 'whoever booked',
  attendees: 'attendees',
  crew: 'crew',
} as const;
