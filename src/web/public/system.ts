import { systemFor } from '#web/kit/system.ts';

/** Our theme where people read, and fill in on a phone: larger type, room for a thumb. */
export const publicSystem = systemFor({
  fontSizes: { small: '14px', medium: '15.5px', body: '17px' },
  spacing: { buttonX: '13px', buttonY: '7px', controlX: '10px', controlY: '9px' },
  sizes: { control: '44px', tick: '36px' },
});
