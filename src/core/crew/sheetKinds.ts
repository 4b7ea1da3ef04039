/** By what a printed sheet is put together. `sign in`: by time, with room for when somebody came and went. */
export const sheetKinds = ['day', 'role', 'place', 'person', 'sign in'] as const;
export type SheetKind = (typeof sheetKinds)[number];
