import { create } from 'zustand';
import { persist } from 'zustand/middleware';

interface Interface {
  /** The person whose slide-over is open. */
  person: string | null;
  showPerson(id: string | null): void;
  keysShown: boolean;
  showKeys(shown: boolean): void;
}

export const useInterface = create<Interface>()((set) => ({
  person: null,
  showPerson: (person) => set({ person }),
  keysShown: false,
  showKeys: (keysShown) => set({ keysShown }),
}));

type Light = 'system' | 'light' | 'dark';
interface Looks {
  light: Light;
  setLight(light: Light): void;
}

export const useLooks = create<Looks>()(
  persist(
    (set) => ({
      light: 'system',
      setLight: (light) => {
        set({ light });
        applyLight(light);
      },
    }),
    { name: 'acolyte-looks', onRehydrateStorage: () => (looks) => applyLight(looks?.light ?? 'system') },
  ),
);

function applyLight(light: Light): void {
  if (light === 'system') delete document.documentElement.dataset.theme;
  else document.documentElement.dataset.theme = light;
}

/** Somebody whose record was opened. */
export interface RecentPerson {
  id: string;
  label: string;
  more: string;
}
/** The people opened last on this device, newest first: shown before anything is typed. */
export const useRecent = create<{
  people: RecentPerson[];
  remember(person: RecentPerson): void;
  forget(): void;
}>()(
  persist(
    (set) => ({
      people: [],
      remember: (person) =>
        set((s) => ({ people: [person, ...s.people.filter((p) => p.id !== person.id)].slice(0, 8) })),
      forget: () => set({ people: [] }),
    }),
    { name: 'acolyte-recent' },
  ),
);
