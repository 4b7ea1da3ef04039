import { chakra } from '@chakra-ui/react';

/** A remark in the margin of something: for information, for somebody to act on, or because something is stopped. */
export const Note = chakra('div', {
  base: {
    padding: '0 0 12px 11px',
    marginBottom: '12px',
    borderBottom: '1px solid',
    borderColor: 'line',
    position: 'relative',
    _before: {
      content: '""',
      position: 'absolute',
      left: 0,
      top: '5px',
      bottom: '14px',
      width: '2px',
      background: 'slate',
    },
    '& b': { fontWeight: 600 },
    '& p': { margin: '0 0 6px' },
    '& a:not([class])': { textDecoration: 'underline', textUnderlineOffset: '2px' },
  },
  variants: {
    tone: {
      know: {},
      need: { _before: { background: 'ochre' } },
      stop: { _before: { background: 'madder' } },
    },
  },
});

/** What will be here, and the first step towards it, where nothing is yet. */
export const Empty = chakra('p', { base: { color: 'soft', padding: '14px 0' } });
