/** What has to hold of the figures of an event, in English. */
export const checksEn = {
  seats: 'confirmed seats = arrived + missed + expected',
  strays: 'nobody arrived without a confirmed seat',
  money: 'what came in and stayed = what the bookings show as received',
  gifts: 'gifts that came in and stayed = gifts on the records of those who gave',
  survey: 'survey answers are at most those asked',
} as const;
