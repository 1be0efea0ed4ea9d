/** Which of two runs side by side this is: each has servers of its own. */
export const lane = Number(process.env.GRAMMATA_E2E_LANE ?? 0);
const from = 4610 + 100 * lane;

/** Where the servers under test listen. */
export const demo = {
  port: from,
  practicePort: from + 20,
  url: `http://127.0.0.1:${from}`,
  practice: `http://127.0.0.1:${from + 20}`,
};
export const fresh = { port: from + 10, url: `http://127.0.0.1:${from + 10}` };
