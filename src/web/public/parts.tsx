import { chakra } from '@chakra-ui/react';

/** Something said aside from the text: what happened, what needs somebody, what is stopped. */
export const Say = chakra('div', {
  base: { borderLeft: '2px solid', borderColor: 'slate', padding: '2px 0 2px 12px', margin: '16px 0' },
  variants: {
    tone: {
      need: { borderColor: 'ochre' },
      stop: { borderColor: 'madder' },
      good: { borderColor: 'verdigris' },
    },
  },
});

export const Title = chakra('h1', {
  base: { fontSize: '30px', margin: '18px 0 6px', letterSpacing: '-0.01em', lineHeight: 1.2 },
});
export const Head = chakra('h2', { base: { fontSize: '20px', margin: '26px 0 6px' } });
export const Soft = chakra('p', { base: { color: 'soft' } });
/** A quieter line under another. */
export const Small = chakra('small', { base: { display: 'block', color: 'soft', fontSize: '15px' } });

/** A list whose lines are ruled off. */
export const Rows = chakra('ul', {
  base: {
    listStyleType: 'none',
    margin: 0,
    padding: 0,
    '& > li': { padding: '12px 0', borderBottom: '1px solid', borderColor: 'line' },
  },
});
/** Two things at the two ends of a line. */
export const Ends = chakra('div', {
  base: { display: 'flex', justifyContent: 'space-between', gap: '12px', alignItems: 'baseline' },
});
/** Two fields beside one another. */
export const Two = chakra('div', {
  base: { display: 'grid', gridTemplateColumns: '1fr 1fr', gap: '0 12px' },
});
/** Buttons one after the other. */
export const Acts = chakra('div', {
  base: { display: 'flex', gap: '10px', flexWrap: 'wrap', marginTop: '8px' },
});

/** What is asked and what is known: when, where, what it costs. */
export const Facts = chakra('dl', {
  base: {
    display: 'grid',
    gridTemplateColumns: '76px 1fr',
    gap: '6px 10px',
    margin: '14px 0',
    '& dt': { color: 'soft' },
    '& dd': { margin: 0 },
    '& dd a': { textDecoration: 'underline', textUnderlineOffset: '2px' },
  },
});
