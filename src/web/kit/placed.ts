type Side = 'left' | 'right' | 'top' | 'width' | 'height' | 'maxHeight' | 'marginLeft';

/**
 * Where something stands, worked out as it is drawn: shares and lengths that no class could have. Everything else about how
 * something looks is said by style props and recipes.
 */
export const placed = (
  geometry: Partial<Record<Side, number | string>>,
): Partial<Record<Side, number | string>> => geometry;
