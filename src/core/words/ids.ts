const pattern = /^[\da-f]{8}(?:-[\da-f]{4}){3}-[\da-f]{12}$/iu;

/** True of an id as the product makes them (RFC 9562 section 4). */
export const isId = (value: unknown): value is string => typeof value === 'string' && pattern.test(value);
