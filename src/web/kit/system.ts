import {
  createSystem,
  defaultBaseConfig,
  defineConfig,
  type RecipeDefinition,
  type SlotRecipeConfig,
} from '@chakra-ui/react';
import { recipes, slotRecipes } from './recipes.ts';

const colour = (name: string) => ({ value: `var(--${name})` });

/** How dense a page is: where people compare, and where they read and fill in on a phone. */
export interface Density {
  fontSizes: Record<'small' | 'medium' | 'body', string>;
  /** Padding of buttons and of what is typed into. */
  spacing: Record<'buttonX' | 'buttonY' | 'controlX' | 'controlY', string>;
  /** The least height of what is typed into, and of what is ticked. */
  sizes: Record<'control' | 'tick', string>;
}
/** Looks of parts that not every page has. */
interface More {
  recipes: Record<string, RecipeDefinition>;
  slotRecipes: Record<string, SlotRecipeConfig>;
}

const valued = (of: Record<string, string>) =>
  Object.fromEntries(Object.entries(of).map(([name, value]) => [name, { value }]));

/**
 * Our theme as a Chakra system: the base of Chakra without its own look, with our tokens and recipes. Colours are the variables
 * of `tokens.css`, which hold before any script runs, in light and in dark.
 */
export const systemFor = (density: Density, more: More = { recipes: {}, slotRecipes: {} }) =>
  createSystem(
    defaultBaseConfig,
    defineConfig({
      preflight: false,
      theme: {
        keyframes: { appear: { from: { opacity: 0 }, to: { opacity: 1 } } },
        breakpoints: { sm: '480px', md: '720px', lg: '900px', xl: '1180px' },
        tokens: {
          fonts: { title: { value: 'var(--title)' }, text: { value: 'var(--text)' } },
          spacing: valued(density.spacing),
          sizes: valued(density.sizes),
          fontSizes: {
            ...valued(density.fontSizes),
            sub: { value: '16px' },
            head: { value: '18px' },
            title: { value: '22px' },
          },
          radii: { corner: { value: '3px' } },
        },
        semanticTokens: {
          colors: {
            paper: colour('paper'),
            sheet: colour('sheet'),
            ink: colour('ink'),
            soft: colour('soft'),
            line: colour('line'),
            rule: colour('rule'),
            verdigris: colour('verdigris'),
            onVerdigris: colour('on-verdigris'),
            ochre: colour('ochre'),
            madder: colour('madder'),
            slate: colour('slate'),
            wash: colour('wash'),
          },
        },
        textStyles: {
          title: { value: { fontFamily: 'title', fontSize: 'title', lineHeight: 1.25, fontWeight: 500 } },
          head: { value: { fontFamily: 'title', fontSize: 'head', lineHeight: 1.3, fontWeight: 500 } },
          figures: { value: { fontVariantNumeric: 'tabular-nums' } },
        },
        layerStyles: {
          floating: {
            value: {
              bg: 'sheet',
              color: 'ink',
              border: '1px solid',
              borderColor: 'rule',
              borderRadius: 'corner',
              boxShadow: 'none',
            },
          },
        },
        recipes: { ...recipes, ...more.recipes },
        slotRecipes: { ...slotRecipes, ...more.slotRecipes },
      },
    }),
  );
