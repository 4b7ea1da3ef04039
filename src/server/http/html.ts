/** Text as it stands in HTML, also within an attribute. */
export const escapeHtml = (text: string): string => text.replace(/[&<>"']/gu, (c) => `&#${c.charCodeAt(0)};`);
