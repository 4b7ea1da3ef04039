import { createSystem, defaultConfig, defineConfig } from '@chakra-ui/react';

const token = (name: string) => ({ value: `var(--${name})` });

/** Chakra speaks our colours, type and corners; its own look stays out. */
export const system = createSystem(
  defaultConfig,
  defineConfig({
    preflight: false,
    globalCss: {},
    theme: {
      tokens: {
        fonts: { heading: token('title'), body: token('text') },
        radii: { l1: { value: '3px' }, l2: { value: '3px' }, l3: { value: '3px' } },
      },
      semanticTokens: {
        colors: {
          bg: {
            DEFAULT: token('sheet'),
            panel: token('sheet'),
            muted: token('wash'),
            subtle: token('paper'),
          },
          fg: { DEFAULT: token('ink'), muted: token('soft'), subtle: token('soft') },
          border: { DEFAULT: token('line'), muted: token('line'), emphasized: token('rule') },
        },
        shadows: {
          xs: { value: 'none' },
          sm: { value: 'none' },
          md: { value: 'none' },
          lg: { value: '0 0 0 1px var(--rule)' },
          xl: { value: 'none' },
          '2xl': { value: 'none' },
        },
      },
    },
  }),
);
