import { type Density, systemFor } from './system.ts';
import { workRecipes, workSlotRecipes } from './workRecipes.ts';

const working: Density = {
  fontSizes: { small: '13px', medium: '14px', body: '15px' },
  spacing: { buttonX: '11px', buttonY: '4px', controlX: '8px', controlY: '5px' },
  sizes: { control: '0', tick: '0' },
};

/** Our theme where people compare, with every part of the kit. */
export const system = systemFor(working, { recipes: workRecipes, slotRecipes: workSlotRecipes });
