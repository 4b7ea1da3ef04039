import { chakra } from '@chakra-ui/react';
import { Link } from 'react-router';
import { button } from './recipes.ts';

/** Does something. `look`: `main` for the one thing to do, `stop` for what ends or deletes, `plain` for what is rare. */
export const Button = chakra('button', button, { defaultProps: { type: 'button' } });

/** Leads somewhere, looking like a button. */
export const ButtonLink = chakra(Link, button);

/** A file or a page outside the application, looking like a button. */
export const ButtonAnchor = chakra('a', button);

/** A control that a label stands for, such as choosing a file. */
export const ButtonLabel = chakra('label', button);

/** A link within the application that takes style props. */
export const TextLink = chakra(Link);
