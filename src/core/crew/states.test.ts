import { expect, test } from 'vitest';
import { assignmentStates, refusalOf } from './states.ts';

test('whoever was dropped stays dropped, and nobody has served before the shift began', () => {
  for (const to of ['agreed', 'dropped', 'served', 'missed'] as const) {
    for (const begun of [true, false])
      expect(refusalOf({ state: 'dropped', begun }, to)).toEqual({ code: 'dropped' });
    for (const state of assignmentStates) {
      if (state === 'dropped') continue;
      const only = state === 'proposed' && (to === 'served' || to === 'missed');
      expect(refusalOf({ state, begun: true }, to)).toEqual(only ? { code: 'only-asked' } : null);
      expect(refusalOf({ state, begun: false }, to)).toEqual(
        only ? { code: 'only-asked' } : to === 'served' || to === 'missed' ? { code: 'not-yet' } : null,
      );
    }
  }
});
