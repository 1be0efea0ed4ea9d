/** The one place that reads a clock. Milliseconds since the epoch. */
export const now = (): number => Date.now();

/** ISO 8601 in UTC for the interface. */
export const iso = (milliseconds: number): string => new Date(milliseconds).toISOString();
export const isoOrNull = (milliseconds: number | null): string | null =>
  milliseconds === null ? null : iso(milliseconds);
