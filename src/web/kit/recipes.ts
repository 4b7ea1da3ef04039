import { defineRecipe, defineSlotRecipe } from '@chakra-ui/react';
import {
  checkboxAnatomy,
  comboboxAnatomy,
  dialogAnatomy,
  drawerAnatomy,
  fieldAnatomy,
  fieldsetAnatomy,
  menuAnatomy,
  nativeSelectAnatomy,
  popoverAnatomy,
  radioGroupAnatomy,
  sliderAnatomy,
  switchAnatomy,
  tabsAnatomy,
  tagsInputAnatomy,
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
    padding: '{spacing.buttonY} {spacing.buttonX}',
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
      /** Words that do something, within running text or a row. */
      link: {
        border: 0,
        padding: 0,
        fontSize: 'inherit',
        color: 'verdigris',
        whiteSpace: 'normal',
        textAlign: 'left',
        display: 'inline',
        _hover: { background: 'none', textDecoration: 'underline' },
      },
    },
    size: {
      normal: {},
      /** For a thumb, at the door. */
      touch: { minHeight: '44px', paddingInline: '14px', fontSize: '16px' },
      /** The one thing to do on a public page. */
      go: { width: '100%', justifyContent: 'center', padding: '12px', fontSize: '18px', marginTop: '18px' },
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

/** What people type into. */
const typing = {
  font: 'inherit',
  color: 'ink',
  background: 'sheet',
  border: '1px solid',
  borderColor: 'rule',
  borderRadius: 'corner',
  padding: '{spacing.controlY} {spacing.controlX}',
  minHeight: 'control',
  width: '100%',
  minWidth: 0,
  _invalid: { borderColor: 'madder' },
  _disabled: { opacity: 0.6 },
} as const;
const input = defineRecipe({ base: typing });
const textarea = defineRecipe({ base: { ...typing, resize: 'vertical' } });

const nativeSelect = defineSlotRecipe({
  slots: nativeSelectAnatomy.keys(),
  base: {
    root: { width: '100%', minWidth: 0, position: 'relative' },
    field: { ...typing, appearance: 'auto' },
    indicator: { display: 'none' },
  },
});

/** A box or a ring that is filled in, and the words beside it. */
const mark = {
  display: 'inline-flex',
  alignItems: 'center',
  justifyContent: 'center',
  flexShrink: 0,
  width: '16px',
  height: '16px',
  marginTop: '3px',
  border: '1px solid',
  borderColor: 'rule',
  background: 'sheet',
  color: 'onVerdigris',
  _checked: { background: 'verdigris', borderColor: 'verdigris' },
  _indeterminate: { background: 'verdigris', borderColor: 'verdigris' },
  _invalid: { borderColor: 'madder' },
  _focusVisible: { outline: '2px solid', outlineColor: 'verdigris', outlineOffset: '2px' },
  '& svg': { width: '12px', height: '12px', strokeWidth: '3px' },
} as const;
const choosable = {
  display: 'flex',
  gap: '8px',
  alignItems: 'flex-start',
  padding: '3px 0',
  minHeight: 'tick',
  cursor: 'pointer',
  position: 'relative',
  _disabled: { opacity: 0.6, cursor: 'default' },
} as const;
const checkbox = defineSlotRecipe({
  slots: checkboxAnatomy.keys(),
  base: { root: choosable, control: { ...mark, borderRadius: 'corner' }, label: { minWidth: 0 } },
});
const radioGroup = defineSlotRecipe({
  slots: radioGroupAnatomy.keys(),
  base: {
    item: choosable,
    itemControl: {
      ...mark,
      borderRadius: '50%',
      _checked: { background: 'sheet', borderColor: 'verdigris', borderWidth: '5px' },
    },
    itemText: { minWidth: 0 },
  },
});
const slider = defineSlotRecipe({
  slots: sliderAnatomy.keys(),
  base: {
    root: { display: 'grid', gap: '2px', fontSize: '14px' },
    control: {
      display: 'flex',
      alignItems: 'center',
      position: 'relative',
      height: '24px',
      cursor: 'pointer',
    },
    track: { flex: 1, height: '3px', borderRadius: '2px', background: 'rule', overflow: 'hidden' },
    range: { background: 'verdigris', height: '100%' },
    thumb: {
      width: '16px',
      height: '16px',
      borderRadius: '50%',
      background: 'verdigris',
      top: '4px',
      _focusVisible: { outline: '2px solid', outlineColor: 'verdigris', outlineOffset: '2px' },
    },
  },
});
const switched = defineSlotRecipe({
  slots: switchAnatomy.keys(),
  base: {
    root: { ...choosable, alignItems: 'center' },
    control: {
      width: '30px',
      height: '18px',
      flexShrink: 0,
      border: '1px solid',
      borderColor: 'rule',
      borderRadius: '9px',
      background: 'sheet',
      padding: '2px',
      _checked: { background: 'verdigris', borderColor: 'verdigris' },
      _focusVisible: { outline: '2px solid', outlineColor: 'verdigris', outlineOffset: '2px' },
    },
    thumb: {
      display: 'block',
      width: '12px',
      height: '12px',
      borderRadius: '50%',
      background: 'soft',
      transition: 'translate 120ms',
      _checked: { background: 'onVerdigris', translate: '12px 0' },
    },
  },
});

const combobox = defineSlotRecipe({
  slots: comboboxAnatomy.keys(),
  base: {
    root: { width: '100%' },
    control: { position: 'relative' },
    input: typing,
    content: {
      layerStyle: 'floating',
      zIndex: 70,
      padding: '4px 0',
      maxHeight: '280px',
      overflow: 'auto',
      outline: 'none',
      fontSize: 'medium',
    },
    item: {
      display: 'flex',
      justifyContent: 'space-between',
      gap: '12px',
      alignItems: 'baseline',
      padding: '6px 12px',
      cursor: 'pointer',
      _highlighted: { background: 'wash' },
    },
    empty: { padding: '6px 12px', color: 'soft' },
    clearTrigger: { cursor: 'pointer', background: 'none', border: 0, color: 'soft' },
  },
});

const tagsInput = defineSlotRecipe({
  slots: tagsInputAnatomy.keys(),
  base: {
    root: { width: '100%' },
    control: {
      ...typing,
      display: 'flex',
      flexWrap: 'wrap',
      gap: '5px',
      alignItems: 'center',
      _focusWithin: { outline: '2px solid', outlineColor: 'verdigris', outlineOffset: '2px' },
    },
    input: {
      font: 'inherit',
      color: 'ink',
      border: 0,
      background: 'none',
      padding: 0,
      minWidth: '90px',
      width: 'auto',
      flex: 1,
      outline: 'none',
    },
    itemPreview: {
      display: 'inline-flex',
      gap: '6px',
      alignItems: 'baseline',
      border: '1px solid',
      borderColor: 'line',
      borderRadius: 'corner',
      padding: '0 6px',
      fontSize: 'small',
      _highlighted: { borderColor: 'verdigris', background: 'wash' },
    },
    itemDeleteTrigger: {
      font: 'inherit',
      background: 'none',
      border: 0,
      padding: 0,
      color: 'soft',
      cursor: 'pointer',
    },
  },
});

const tabs = defineSlotRecipe({
  slots: tabsAnatomy.keys(),
  base: {
    list: {
      display: 'flex',
      gap: '18px',
      overflowX: 'auto',
      borderBottom: '1px solid',
      borderColor: 'line',
      marginBottom: '14px',
    },
    trigger: {
      font: 'inherit',
      fontSize: 'medium',
      whiteSpace: 'nowrap',
      background: 'none',
      border: 0,
      borderBottom: '2px solid transparent',
      padding: '6px 0',
      color: 'soft',
      cursor: 'pointer',
      _selected: { color: 'ink', borderColor: 'verdigris' },
    },
  },
});

/** A view of a list that is on or off. */
export const chip = defineRecipe({
  base: {
    font: 'inherit',
    border: '1px solid',
    borderColor: 'line',
    borderRadius: 'corner',
    padding: '2px 8px',
    color: 'ink',
    background: 'none',
    cursor: 'pointer',
    fontVariantNumeric: 'tabular-nums',
    _pressed: { borderColor: 'verdigris', color: 'verdigris' },
  },
});

const popover = defineSlotRecipe({
  slots: popoverAnatomy.keys(),
  base: {
    content: {
      layerStyle: 'floating',
      zIndex: 70,
      padding: '10px 14px',
      maxHeight: '70vh',
      overflow: 'auto',
      fontSize: 'medium',
    },
  },
});

const fieldset = defineSlotRecipe({
  slots: fieldsetAnatomy.keys(),
  base: {
    root: { border: 0, padding: 0, margin: '0 0 14px', minWidth: 0 },
    legend: { padding: 0, fontSize: 'medium', fontWeight: 500, marginBottom: '4px' },
    helperText: { display: 'block', fontSize: 'small', color: 'soft', marginTop: '3px' },
    errorText: { display: 'block', fontSize: '13.5px', color: 'madder', marginTop: '3px' },
  },
});

const field = defineSlotRecipe({
  slots: fieldAnatomy.keys(),
  base: {
    root: { display: 'block', marginBottom: '14px' },
    label: { display: 'inline-block', fontSize: 'medium', fontWeight: 500, marginBottom: '3px' },
    helperText: { display: 'block', fontSize: 'small', color: 'soft', marginTop: '3px' },
    errorText: { display: 'block', fontSize: '13.5px', color: 'madder', marginTop: '3px' },
    requiredIndicator: { fontSize: 'small', fontWeight: 400, color: 'soft', marginInlineStart: '6px' },
  },
});

export const recipes = { button, chip, input, textarea };
export const slotRecipes = {
  dialog,
  drawer,
  menu,
  popover,
  toast,
  field,
  fieldset,
  nativeSelect,
  checkbox,
  radioGroup,
  slider,
  switch: switched,
  combobox,
  tagsInput,
  tabs,
};
