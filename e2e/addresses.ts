/** Stories that run beside the others, on servers of their own, when the run is split into two lanes. */
export const secondLane = ['holding', 'tryout', 'worseWeek'];

/** Which lane of the run this is, 1 or 2; 0 where one run has all stories. */
export const lane = Number(process.env.GRAMMATA_LANE ?? 0);

/** A server takes a few ports behind its own: lanes stand well apart. */
const APART = 30;
const listening = (port: number) => ({ port: port + lane * APART, url: `http://127.0.0.1:${port + lane * APART}` });
const practice = listening(4710);
/** Where the servers under test listen. */
export const demo = { ...listening(4610), practicePort: practice.port, practice: practice.url };
export const fresh = listening(4620);
