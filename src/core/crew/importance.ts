/** How much a place on a shift matters beside others, the least first. */
export const importances = ['extra', 'usual', 'vital'] as const;
export type Importance = (typeof importances)[number];

/** What one place counts where a roster is worked out: two vital ones are filled before six usual ones are. */
export const weightOf: Readonly<Record<Importance, number>> = { extra: 1, usual: 3, vital: 10 };
