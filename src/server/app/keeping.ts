export interface Working {
  what: 'making' | 'checking' | 'putting back';
  done: number;
  all: number;
}

export interface KeptBackup {
  name: string;
  at: string;
  bytes: number;
}

/** Makes backups of a data folder and puts them back, one at a time, while the product goes on. */
export interface Keeper {
  working(): Working | null;
  list(): KeptBackup[];
  pathOf(name: string): string;
  make(to?: string): Promise<KeptBackup>;
  /** Adds a backup from elsewhere to those of the folder. */
  add(from: string): Promise<string>;
  remove(name: string): void;
  /** Answers whose it was, as of when. */
  restore(name: string): Promise<{ organization: string; madeAt: string }>;
}
