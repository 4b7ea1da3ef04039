/** Where the device keeps how its door is called. */
const stored = 'door-name';

/** How the door is called where this device stands; empty where nobody said. */
export const doorName = (): string => localStorage.getItem(stored) ?? '';

/** Says how the door is called; what was marked before keeps its name. */
export const nameDoor = (name: string): void => {
  const trimmed = name.trim().slice(0, 60);
  if (trimmed) localStorage.setItem(stored, trimmed);
  else localStorage.removeItem(stored);
};
