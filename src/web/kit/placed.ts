type Side = 'left' | 'right' | 'top' | 'width' | 'height' | 'maxHeight' | 'marginLeft' | `--${string}`;
type Geometry = Partial<Record<Side, number | string>> & { transform?: string };

/**
 * Where something stands, worked out as it is drawn: shares and lengths that no class could have. Everything else about how
 * something looks is said by style props and recipes.
 */
export const placed = (geometry: Geometry): Geometry => geometry;
