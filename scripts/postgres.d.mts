export function postgresPrograms(): string | null;
