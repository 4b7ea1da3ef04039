/** True where an address asks for a page on a device that many people use one after the other. */
export const isShared = (search: string): boolean => new URLSearchParams(search).has('kiosk');
