import { defineRecipe } from '@chakra-ui/react';
import { choosable, floating, ofParts, typing } from './recipes.ts';

const drawer = ofParts({
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
});

const menu = ofParts({
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
});

const slider = ofParts({
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
});

const switched = ofParts({
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
});

const combobox = ofParts({
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
});

const tagsInput = ofParts({
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
});

const tabs = ofParts({
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

const popover = ofParts({
  content: {
    layerStyle: 'floating',
    zIndex: 70,
    padding: '10px 14px',
    maxHeight: '70vh',
    overflow: 'auto',
    fontSize: 'medium',
  },
});

/** How parts look that only the screens of staff are composed of. */
export const workRecipes = { chip };
export const workSlotRecipes = {
  drawer,
  menu,
  slider,
  switch: switched,
  combobox,
  tagsInput,
  tabs,
  popover,
};
