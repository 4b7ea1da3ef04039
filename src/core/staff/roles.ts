/** The roles of staff. A coordinator may do whatever another role may. */
export const roles = ['coordinator', 'unit lead', 'approver', 'treasurer', 'crew lead', 'door'] as const;
export type Role = (typeof roles)[number];
