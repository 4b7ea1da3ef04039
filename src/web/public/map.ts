/** A map of a place that opens on any device. */
export const mapOf = (latitude: number, longitude: number | null): string =>
  `https://www.openstreetmap.org/?mlat=${latitude}&mlon=${longitude}#map=16/${latitude}/${longitude}`;
