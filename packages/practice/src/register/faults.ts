/** Ways to go wrong that can be switched on. */
export const faults = {
  none: 'works',
  slow: 'slow: answers after 4 seconds',
  error: 'fails: 500 to everything',
  busy: 'busy: 429, Retry-After 5',
  drop: 'drops the connection',
  token: 'token expired: 401',
} as const;
export type Fault = keyof typeof faults;
