import { defineRecipe, defineSlotRecipe, type SystemStyleObject } from '@chakra-ui/react';

/** The look of what has several parts. Only the parts it speaks of: all lists of parts of the library would come with every public page. */
export const ofParts = <P extends string>(base: Record<P, SystemStyleObject>) =>
  defineSlotRecipe({ slots: Object.keys(base) as P[], base });

/** What is done: outlined; the one thing to do stands out, what is rare or cannot be undone is quiet or red. */
export const button = defineRecipe({
  base: {
    font: 'inherit',
    fontSize: 'medium',
    whiteSpace: 'nowrap',
    // Where several stand in a row that wraps, one that is wider than the page wraps too.
    '.acts &': { whiteSpace: 'normal', textAlign: 'start' },
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

export const floating = { layerStyle: 'floating' } as const;

const dialog = ofParts({
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
});

const toast = ofParts({
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
});

/** What people type into. */
export const typing = {
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

const nativeSelect = ofParts({
  root: { width: '100%', minWidth: 0, position: 'relative' },
  field: { ...typing, appearance: 'auto' },
  indicator: { display: 'none' },
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
export const choosable = {
  display: 'flex',
  gap: '8px',
  alignItems: 'flex-start',
  padding: '3px 0',
  minHeight: 'tick',
  cursor: 'pointer',
  position: 'relative',
  _disabled: { opacity: 0.6, cursor: 'default' },
} as const;
const checkbox = ofParts({
  root: choosable,
  control: { ...mark, borderRadius: 'corner' },
  label: { minWidth: 0 },
});
const radioGroup = ofParts({
  item: choosable,
  itemControl: {
    ...mark,
    borderRadius: '50%',
    _checked: { background: 'sheet', borderColor: 'verdigris', borderWidth: '5px' },
  },
  itemText: { minWidth: 0 },
});

const fieldset = ofParts({
  root: { border: 0, padding: 0, margin: '0 0 14px', minWidth: 0 },
  legend: { padding: 0, fontSize: 'medium', fontWeight: 500, marginBottom: '4px' },
  helperText: { display: 'block', fontSize: 'small', color: 'soft', marginTop: '3px' },
  errorText: { display: 'block', fontSize: '13.5px', color: 'madder', marginTop: '3px' },
});

const field = ofParts({
  root: { display: 'block', marginBottom: '14px' },
  label: { display: 'inline-block', fontSize: 'medium', fontWeight: 500, marginBottom: '3px' },
  helperText: { display: 'block', fontSize: 'small', color: 'soft', marginTop: '3px' },
  errorText: { display: 'block', fontSize: '13.5px', color: 'madder', marginTop: '3px' },
  requiredIndicator: { fontSize: 'small', fontWeight: 400, color: 'soft', marginInlineStart: '6px' },
});

export const recipes = { button, input, textarea };
export const slotRecipes = {
  dialog,
  toast,
  field,
  fieldset,
  nativeSelect,
  checkbox,
  radioGroup,
};
