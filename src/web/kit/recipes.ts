import { defineRecipe, defineSlotRecipe } from '@chakra-ui/react';
import {
  dialogAnatomy,
  drawerAnatomy,
  fieldAnatomy,
  menuAnatomy,
  toastAnatomy,
} from '@chakra-ui/react/anatomy';

/** What is done: outlined; the one thing to do stands out, what is rare or cannot be undone is quiet or red. */
export const button = defineRecipe({
  base: {
    font: 'inherit',
    fontSize: 'medium',
    whiteSpace: 'nowrap',
    border: '1px solid',
    borderRadius: 'corner',
    padding: '4px 11px',
    cursor: 'pointer',
    display: 'inline-flex',
    alignItems: 'center',
    gap: '6px',
    textDecoration: 'none',
    background: 'transparent',
    _hover: { background: 'wash', textDecoration: 'none' },
    _disabled: { opacity: 0.5, cursor: 'default' },
    // A key beside what it does.
    '& kbd': { color: 'inherit', background: 'transparent', borderColor: 'currentColor' },
  },
  variants: {
    look: {
      normal: { borderColor: 'verdigris', color: 'verdigris' },
      main: {
        borderColor: 'verdigris',
        color: 'onVerdigris',
        background: 'verdigris',
        _hover: { background: 'verdigris', filter: 'brightness(1.08)' },
      },
      stop: { borderColor: 'madder', color: 'madder' },
      plain: { borderColor: 'transparent', color: 'verdigris', paddingInline: '4px' },
    },
    size: {
      normal: {},
      /** For a thumb, at the door. */
      touch: { minHeight: '44px', paddingInline: '14px', fontSize: '16px' },
    },
  },
  defaultVariants: { look: 'normal', size: 'normal' },
});

const floating = { layerStyle: 'floating' } as const;

const dialog = defineSlotRecipe({
  slots: dialogAnatomy.keys(),
  base: {
    backdrop: { position: 'fixed', inset: 0, background: 'rgb(0 0 0 / 0.28)', zIndex: 60 },
    positioner: {
      position: 'fixed',
      inset: 0,
      zIndex: 60,
      display: 'flex',
      justifyContent: 'center',
      alignItems: 'flex-start',
      overflow: 'auto',
      padding: { base: '6vh 0 0', sm: '9vh 16px 16px' },
    },
    content: { ...floating, padding: '18px 22px', width: '100%', outline: 'none' },
    title: { textStyle: 'head', marginBottom: '10px' },
  },
});

const drawer = defineSlotRecipe({
  slots: drawerAnatomy.keys(),
  base: {
    backdrop: { position: 'fixed', inset: 0, background: 'rgb(0 0 0 / 0.18)', zIndex: 50 },
    positioner: {
      position: 'fixed',
      inset: 0,
      zIndex: 50,
      display: 'flex',
      justifyContent: 'flex-end',
      // Beside it the page is clicked, which closes it.
      pointerEvents: 'none',
    },
    content: {
      pointerEvents: 'auto',
      background: 'sheet',
      color: 'ink',
      borderLeft: '1px solid',
      borderColor: 'rule',
      width: '100%',
      maxWidth: '480px',
      height: '100dvh',
      padding: '18px 22px',
      overflow: 'auto',
      outline: 'none',
    },
  },
});

const menu = defineSlotRecipe({
  slots: menuAnatomy.keys(),
  base: {
    content: { ...floating, padding: '4px 0', minWidth: '200px', outline: 'none', zIndex: 45 },
    positioner: { zIndex: 45 },
    item: {
      display: 'flex',
      gap: '8px',
      alignItems: 'center',
      padding: '6px 12px',
      fontSize: 'medium',
      cursor: 'pointer',
      color: 'ink',
      outline: 'none',
      _highlighted: { background: 'wash' },
    },
    itemGroupLabel: { padding: '6px 12px 4px', fontSize: 'small', color: 'soft' },
    separator: { height: '1px', background: 'line', margin: '4px 0' },
  },
});

const toast = defineSlotRecipe({
  slots: toastAnatomy.keys(),
  base: {
    root: {
      background: 'ink',
      color: 'paper',
      borderRadius: 'corner',
      padding: '8px 14px',
      fontSize: 'medium',
      width: 'fit-content',
      maxWidth: '620px',
      display: 'flex',
      gap: '14px',
      alignItems: 'center',
      translate: 'var(--x) var(--y)',
      scale: 'var(--scale)',
      opacity: 'var(--opacity)',
      height: 'var(--height)',
      zIndex: 'var(--z-index)',
      willChange: 'translate, opacity, scale',
      overflowWrap: 'anywhere',
    },
    title: { fontWeight: 400 },
    actionTrigger: {
      font: 'inherit',
      border: 0,
      background: 'none',
      color: 'inherit',
      padding: 0,
      cursor: 'pointer',
      textDecoration: 'underline',
    },
  },
});

const field = defineSlotRecipe({
  slots: fieldAnatomy.keys(),
  base: {
    root: { display: 'block', marginBottom: '14px' },
    label: { display: 'block', fontSize: 'medium', fontWeight: 500, marginBottom: '3px' },
    helperText: { display: 'block', fontSize: 'small', color: 'soft', marginTop: '3px' },
    errorText: { display: 'block', fontSize: '13.5px', color: 'madder', marginTop: '3px' },
  },
});

export const recipes = { button };
export const slotRecipes = { dialog, drawer, menu, toast, field };
